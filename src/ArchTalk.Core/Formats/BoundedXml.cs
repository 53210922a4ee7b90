using System.Xml;
using System.Xml.Linq;

namespace ArchTalk.Core.Formats;

/// <summary>Reads XML that others wrote: without a document type, and no deeper than what is made of it can bear.</summary>
internal static class BoundedXml
{
    /// <exception cref="XmlException">It is no XML, has a document type that isn't passed over, or is too long or too deep.</exception>
    public static XDocument Load(Func<TextReader> open, int mostCharacters, int mostDepth, DtdProcessing types = DtdProcessing.Prohibit)
    {
        var settings = new XmlReaderSettings { DtdProcessing = types, XmlResolver = null, MaxCharactersInDocument = mostCharacters };
        using (var first = XmlReader.Create(open(), settings))
        {
            while (first.Read())
            {
                if (first.Depth > mostDepth)
                {
                    throw new XmlException($"There are more than {mostDepth} elements within each other.", null, ((IXmlLineInfo)first).LineNumber, 0);
                }
            }
        }

        using var reader = XmlReader.Create(open(), settings);
        return XDocument.Load(reader);
    }
}
