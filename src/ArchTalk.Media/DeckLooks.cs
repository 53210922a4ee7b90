using ArchTalk.Core.Lessons;
using ArchTalk.Media.Boxes;

namespace ArchTalk.Media;

/// <summary>What a deck says, and the PDF that shows how it looks.</summary>
/// <param name="Remark">What the teacher should know of its looks, or empty.</param>
public sealed record DrawnDeck(Deck Deck, string Pdf, string Remark);

/// <summary>Reads decks, and has them drawn by LibreOffice.</summary>
public sealed class DeckLooks(Box box, MediaPrograms programs, MediaLimits limits)
{
    // Hidden slides are drawn too: the teacher may want them.
    private const string Format = "pdf:impress_pdf_Export:"
        + """{"ExportHiddenSlides":{"type":"boolean","value":"true"},"ReduceImageResolution":{"type":"boolean","value":"false"}}""";

    // LibreOffice is heavy: one conversion at a time.
    private static readonly SemaphoreSlim Turn = new(1);

    // What came back is looked at again: a link of a slide becomes one that a teacher can press.
    private void Check(Deck deck)
    {
        if (deck.Extension is not (".pptx" or ".odp") || deck.Slides.Count > limits.Pages
            || deck.Slides.Any(s => s.Typefaces.Count > 100 || s.Typefaces.Any(t => t.Length > 100 || t.Any(char.IsControl)))
            || deck.Slides.SelectMany(s => s.Links).Any(l => !WebAddress.Is(l.Address)))
        {
            throw new MediaException("The deck could not be read: what came of it makes no sense. Save it anew, or as a PDF, and add that.");
        }
    }

    /// <summary>Why a compound file can't be used.</summary>
    public async Task<string> RefuseCompoundAsync(string file, CancellationToken cancel)
    {
        await using var reader = new BoxedReader(box, limits, [file], null, cancel);
        return await reader.AskAsync(v => new RefuseCompound(v.Inputs[0]), cancel);
    }

    /// <summary>Writes the PDF into <paramref name="folder"/>.</summary>
    /// <exception cref="MediaException">It is no deck, or LibreOffice isn't there, hangs, or makes nothing of it.</exception>
    public async Task<DrawnDeck> DrawAsync(string file, string folder, CancellationToken cancel)
    {
        await box.RequireAsync();
        using var work = new WorkFolder(Directory.CreateDirectory(folder).FullName);
        Deck deck;
        await using (var reader = new BoxedReader(box, limits, [file], work.Path, cancel))
        {
            deck = await reader.AskAsync(v => new ReadDeck(v.Inputs[0], v.Out("deck")), cancel);
        }

        Check(deck);

        var drawing = work.Inner("looks");
        await Turn.WaitAsync(cancel);
        try
        {
            await box.RunAsync(
                new BoxedProgram(
                    programs.LibreOffice,
                    v => [$"-env:UserInstallation=file://{v.Scratch}/profile", "--headless", "--norestore", "--nolockcheck", "--nodefault",
                    "--convert-to", Format, "--outdir", v.Out(""), v.Inputs[0]],
                    TimeSpan.FromSeconds(limits.SecondsPerDeck))
                {
                    Inputs = [work.Written("deck" + deck.Extension)],
                    Output = drawing,
                    MemoryMegabytes = limits.DeckMemoryMegabytes
                },
                cancel);
        }
        catch (ProgramMissingException e)
        {
            throw new MediaException(
                "Decks can't be drawn here, because LibreOffice is not installed on the server. Save the deck as a PDF and add that, or ask "
                    + "whoever runs the server to install it; ./demo does so.", e);
        }
        finally
        {
            Turn.Release();
        }

        // It ends with 0 when it could not load a file, so only what it wrote counts.
        if (!File.Exists(Path.Combine(drawing, "deck.pdf")))
        {
            throw new MediaException("LibreOffice could not draw the deck. Save it as a PDF in the program it was made with, and add that.");
        }

        var pdf = Path.Combine(folder, "deck.pdf");
        File.Move(work.Written("looks/deck.pdf"), pdf, overwrite: true);
        return new DrawnDeck(deck, pdf, await new Typefaces(box).RemarkAsync(deck, cancel));
    }
}
