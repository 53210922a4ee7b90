using ArchTalk.Core.Boards;

namespace ArchTalk.Reader.Contract;

/// <summary>Opens a PDF for <see cref="ReadPage"/>; answers how many pages it has.</summary>
public sealed record OpenPdf(string File) : Question<int>;

/// <summary>Answers how many times as high as wide a page (from 1) of the PDF that was opened is seen.</summary>
public sealed record MeasurePage(int Page) : Question<double>;

/// <summary>
/// Reads the words of a page (from 1) of the PDF that was opened, and writes the copies of its drawn picture, which becomes the
/// largest.
/// </summary>
/// <param name="Drawn">The page as JPEG, <see cref="PictureSizes.PageWidth"/> pixels wide.</param>
/// <param name="Medium">The same at the size of the medium copy, which it becomes; null when it isn't drawn so.</param>
public sealed record ReadPage(int Page, string Drawn, string? Medium, string Folder) : Question<PageRead>;

/// <param name="Name">What the outline calls the page; null when it has no entry there.</param>
/// <param name="Links">Web addresses the page leads to.</param>
public sealed record PageRead(TextLayer Words, PictureFile[] Copies, string? Name, SlideLink[] Links);

/// <summary>Reads what a deck says, and writes it anew to <paramref name="Clean"/> with nothing in it but what is drawn.</summary>
/// <param name="Clean">Without an ending; the deck's own is added.</param>
public sealed record ReadDeck(string File, string Clean) : Question<Deck>;

/// <summary>Says why a compound file (D0CF11E0) can't be used.</summary>
public sealed record RefuseCompound(string File) : Question<string>;
