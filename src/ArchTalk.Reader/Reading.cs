using System.Text.Json;
using ArchTalk.Reader.Readers;

namespace ArchTalk.Reader;

/// <summary>Answers questions about files. Nothing is kept but a PDF that is open.</summary>
internal sealed class Reading(MediaLimits limits) : IDisposable
{
    private readonly Lock pdfTurn = new();
    private PdfReader? pdf;

    /// <summary>The answer to one line, as one line. Whatever goes wrong is an answer too.</summary>
    public string Answer(string line)
    {
        var asked = JsonSerializer.Deserialize<Asked>(line)!;
        try
        {
            return JsonSerializer.Serialize(new Answered(asked.Id, Find(asked.Question), null));
        }
        catch (MediaException e)
        {
            return Fault(asked, e.Message);
        }
        catch (OutOfMemoryException)
        {
            return Fault(
                asked,
                $"It can't be read within {limits.MemoryMegabytes} MB of memory. Save it anew with smaller parts, or export it in another form.");
        }
        catch (Exception e)
        {
            Console.Error.WriteLine(e);
            return Fault(asked, "It is broken or built in a way that can't be read. Open it on your computer, save or export it anew, and add that.");
        }
    }

    public void Dispose() => pdf?.Dispose();

    private static string Fault(Asked asked, string message) => JsonSerializer.Serialize(new Answered(asked.Id, null, message));

    private static JsonElement Of<T>(T answer) => JsonSerializer.SerializeToElement(answer);

    private static JsonElement Done(Action work)
    {
        work();
        return Of(true);
    }

    private JsonElement Find(Question question) => question switch
    {
        CopyPicture q => Of(PictureReader.Import(q.File, q.Folder, limits)),
        MakeItemPicture q => Of(PictureReader.MakeItem(q.File, q.Target, limits)),
        OpenPdf q => Of((pdf = PdfReader.Open(q.File, limits)).Count),
        MeasurePage q => Of(Shape(q.Page)),
        ReadPage q => Of(Page(q)),
        ReadDeck q => Of(DeckReader.Read(q.File, q.Clean, limits)),
        CleanSvg q => Done(() => SvgCleaner.Write(q.File, q.Clean, limits)),
        ProposeScan q => Of(ScanMaker.Propose(q.File, limits)),
        MakeScan q => Of(ScanMaker.Import(q.File, q.Settings, q.Folder, limits)),
        FindGutter q => Of(ScanMaker.Gutter(q.File, q.Settings, limits)),
        JoinPictures q => Of(SideBySide.Join(q.Left, q.Right, q.Folder, limits)),
        CoverPicture q => Of(PictureReader.Cover(q.File, q.Boxes, q.Target, limits)),
        DrawForReading q => Of(PictureReader.DrawForReading(q.File, q.Target, limits)),
        ReadPixels q => Of(PicturePixels.Write(q.File, q.Target, limits)),
        RefuseCompound q => Of(CompoundFiles.Refusal(q.File)),
        _ => throw new ArgumentException("An unknown question.", nameof(question)),
    };

    // The reader of words is not made for several threads.
    private double Shape(int page)
    {
        lock (pdfTurn)
        {
            return Open.Shape(page);
        }
    }

    private PdfReader Open => pdf ?? throw new InvalidOperationException("No PDF is open.");

    // Words and copies at the same time.
    private PageRead Page(ReadPage question)
    {
        var copies = Task.Run(() => PictureReader.ImportPage(question.Drawn, question.Medium, question.Folder));
        lock (pdfTurn)
        {
            var open = Open;
            var (words, links) = open.Read(question.Page);
            return new PageRead(words, copies.GetAwaiter().GetResult(), open.NameOf(question.Page), links);
        }
    }
}
