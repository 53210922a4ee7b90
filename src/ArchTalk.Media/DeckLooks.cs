using CliWrap;

namespace ArchTalk.Media;

/// <summary>How the slides of a deck look, as a PDF made by LibreOffice.</summary>
public sealed class DeckLooks(MediaPrograms programs, MediaLimits limits)
{
    // Hidden slides are drawn too: the teacher may want them.
    private const string Format = """pdf:impress_pdf_Export:{"ExportHiddenSlides":{"type":"boolean","value":"true"},"ReduceImageResolution":{"type":"boolean","value":"false"}}""";

    // LibreOffice holds a lock for each user profile and is heavy: one conversion at a time.
    private static readonly SemaphoreSlim Turn = new(1);

    /// <summary>Writes the PDF into <paramref name="folder"/> and gives its path.</summary>
    /// <exception cref="MediaException">LibreOffice isn't there, hangs, or makes nothing of the file.</exception>
    public async Task<string> DrawAsync(string file, string extension, string folder, CancellationToken cancel)
    {
        var work = Directory.CreateDirectory(Path.Combine(folder, "looks")).FullName;
        var named = Path.Combine(work, "deck" + extension);
        File.Copy(file, named, overwrite: true);
        await OutsideLinks.CutAsync(named, cancel);
        var profile = new Uri(Directory.CreateDirectory(Path.Combine(work, "profile")).FullName).AbsoluteUri;
        string[] arguments =
        [
            $"-env:UserInstallation={profile}", "--headless", "--norestore", "--nolockcheck", "--nodefault", "--convert-to", Format, "--outdir", work, named,
        ];
        await Turn.WaitAsync(cancel);
        try
        {
            await Programs.RunAsync(programs.LibreOffice, arguments, TimeSpan.FromSeconds(limits.SecondsPerDeck), cancel);
        }
        catch (ProgramMissingException e)
        {
            throw new MediaException(
                "Decks can't be drawn here, because LibreOffice is not installed on the server. Save the deck as a PDF and add that, or ask whoever runs the server to install it; ./demo does so.", e);
        }
        finally
        {
            Turn.Release();
        }

        // It ends with 0 when it could not load a file, so only what it wrote counts.
        var pdf = Path.Combine(work, "deck.pdf");
        return File.Exists(pdf) && new FileInfo(pdf).Length > 0
            ? pdf
            : throw new MediaException("LibreOffice could not draw the deck. Save it as a PDF in the program it was made with, and add that.");
    }
}
