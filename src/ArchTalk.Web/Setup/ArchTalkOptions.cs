using ArchTalk.Media;
using ArchTalk.Media.Boxes;
using ArchTalk.Reader.Contract;

namespace ArchTalk.Web.Setup;

/// <summary>The section "ArchTalk" of the configuration.</summary>
public sealed class ArchTalkOptions
{
    public const string Section = "ArchTalk";

    /// <summary>Where everything is kept; relative to the content root.</summary>
    public string DataFolder { get; set; } = "data";

    /// <summary>The address students use, for links and QR codes; empty for the address of the request.</summary>
    public string PublicBaseUrl { get; set; } = "";

    /// <summary>Whether a proxy in front terminates HTTPS and sends X-Forwarded-For and X-Forwarded-Proto.</summary>
    public bool BehindProxy { get; set; }

    /// <summary>The addresses of proxies that are believed, beside one on the same machine.</summary>
    public string[] KnownProxies { get; set; } = [];

    /// <summary>
    /// Uploads of recorders that are taken in from one address in a second; three times as many at once. A recorder sends about four,
    /// and a whole school may come from one address.
    /// </summary>
    public int UploadsPerSecond { get; set; } = 200;

    /// <summary>How many bytes of compiled lessons are kept in memory.</summary>
    public long CompiledBytes { get; set; } = 256L << 20;

    public MediaLimits Limits { get; set; } = new();

    public BoxOptions Box { get; set; } = new();

    public MediaPrograms Programs { get; set; } = new();
}
