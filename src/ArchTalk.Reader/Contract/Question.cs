using System.Text.Json;
using System.Text.Json.Serialization;
using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Boards.Scans;

namespace ArchTalk.Reader.Contract;

/// <summary>
/// What the server can ask the program in the box, one line of JSON each. Files and folders are named as the box sees them; what
/// is written is named in the answer by its file name alone.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "ask")]
[JsonDerivedType(typeof(CopyPicture), "copyPicture")]
[JsonDerivedType(typeof(MakeItemPicture), "makeItemPicture")]
[JsonDerivedType(typeof(OpenPdf), "openPdf")]
[JsonDerivedType(typeof(ReadPage), "readPage")]
[JsonDerivedType(typeof(MeasurePage), "measurePage")]
[JsonDerivedType(typeof(ReadDeck), "readDeck")]
[JsonDerivedType(typeof(CleanSvg), "cleanSvg")]
[JsonDerivedType(typeof(ProposeScan), "proposeScan")]
[JsonDerivedType(typeof(MakeScan), "makeScan")]
[JsonDerivedType(typeof(FindGutter), "findGutter")]
[JsonDerivedType(typeof(JoinPictures), "joinPictures")]
[JsonDerivedType(typeof(CoverPicture), "coverPicture")]
[JsonDerivedType(typeof(DrawForReading), "drawForReading")]
[JsonDerivedType(typeof(ReadPixels), "readPixels")]
[JsonDerivedType(typeof(RefuseCompound), "refuseCompound")]
public abstract record Question;

/// <typeparam name="TAnswer">What is answered.</typeparam>
public abstract record Question<TAnswer> : Question;

/// <summary>Writes the copies of a picture, from small to large.</summary>
public sealed record CopyPicture(string File, string Folder) : Question<PictureFile[]>;

/// <summary>Writes a picture that lies on a board, as WebP.</summary>
public sealed record MakeItemPicture(string File, string Target) : Question<PictureFile>;

/// <summary>Opens a PDF for <see cref="ReadPage"/>; answers how many pages it has.</summary>
public sealed record OpenPdf(string File) : Question<int>;

/// <summary>Answers how many times as high as wide a page (from 1) of the PDF that was opened is seen.</summary>
public sealed record MeasurePage(int Page) : Question<double>;

/// <summary>Reads the words of a page (from 1) of the PDF that was opened, and writes the copies of its drawn picture, which becomes the largest.</summary>
/// <param name="Drawn">The page as JPEG, <see cref="PictureSizes.PageWidth"/> pixels wide.</param>
/// <param name="Medium">The same at the size of the medium copy, which it becomes; null when it isn't drawn so.</param>
public sealed record ReadPage(int Page, string Drawn, string? Medium, string Folder) : Question<PageRead>;

/// <param name="Name">What the outline calls the page; null when it has no entry there.</param>
/// <param name="Links">Web addresses the page leads to.</param>
public sealed record PageRead(TextLayer Words, PictureFile[] Copies, string? Name, SlideLink[] Links);

/// <summary>Reads what a deck says, and writes it anew to <paramref name="Clean"/> with nothing in it but what is drawn.</summary>
/// <param name="Clean">Without an ending; the deck's own is added.</param>
public sealed record ReadDeck(string File, string Clean) : Question<Deck>;

/// <summary>Writes an SVG picture anew with nothing in it but what draws.</summary>
public sealed record CleanSvg(string File, string Clean) : Question<bool>;

/// <summary>Says what would put a photographed page right.</summary>
public sealed record ProposeScan(string File) : Question<ScanSettings>;

/// <summary>Writes the copies of a page as the settings make it.</summary>
public sealed record MakeScan(string File, ScanSettings Settings, string Folder) : Question<PictureFile[]>;

/// <summary>Answers where the page as the settings make it is divided into two, as a share of its width.</summary>
public sealed record FindGutter(string File, ScanSettings Settings) : Question<double>;

/// <summary>Writes the copies of a picture that shows two beside each other.</summary>
public sealed record JoinPictures(string Left, string Right, string Folder) : Question<PictureFile[]>;

/// <summary>Writes a copy of a board's picture with nothing to be seen where covers lie; answers its width in pixels.</summary>
public sealed record CoverPicture(string File, CoveredBox[] Boxes, string Target) : Question<int>;

/// <summary>Writes a picture in grey at the size at which words are read best; answers its width in pixels.</summary>
public sealed record DrawForReading(string File, string Target) : Question<int>;

/// <summary>Writes a picture's colours, three bytes for each pixel, row by row; answers its width in pixels.</summary>
public sealed record ReadPixels(string File, string Target) : Question<int>;

/// <summary>Says why a compound file (D0CF11E0) can't be used.</summary>
public sealed record RefuseCompound(string File) : Question<string>;

/// <param name="Id">Comes back with the answer: several questions may be open at once.</param>
public sealed record Asked(int Id, Question Question);

/// <param name="Fault">What is wrong with the file, as a teacher reads it; null when there is an answer.</param>
public sealed record Answered(int Id, JsonElement? Answer, string? Fault);
