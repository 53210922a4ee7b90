using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Scans;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Media.Boxes;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Setup;

namespace ArchTalk.Web.Boards;

/// <summary>Makes and exchanges the pictures of boards; what lies on a board stays where it is.</summary>
public sealed class BoardPictures(ArchTalkDb db, BoardService boards, JobService jobs, Pictures pictures, Scans scans, LessonFiles files)
{
    /// <summary>The name of the picture as it came.</summary>
    public const string OriginalName = "original.bin";

    private static readonly string[] CopyNames = [.. PictureSizes.All.Select(s => $"{s.Name}.jpg"), Pictures.SharpName];

    /// <summary>How the original is set now; as it is, when it never was.</summary>
    public async Task<ScanSettings> SettingsAsync(Guid lesson, Guid id, CancellationToken cancel) =>
        (await boards.GetAsync(lesson, id, cancel)).Scan ?? ScanSettings.AsItIs;

    /// <summary>What would put the page right.</summary>
    public async Task<ScanSettings> ProposeAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var original = Original(await boards.GetAsync(lesson, id, cancel));
        return await scans.ProposeAsync(original, cancel);
    }

    /// <summary>The picture as it came, turned by quarters and as large as a screen shows it, for finding the corners of the page on it.</summary>
    /// <returns>JPEG.</returns>
    public async Task<byte[]> OriginalAsync(Guid lesson, Guid id, int turn, CancellationToken cancel)
    {
        var original = Original(await boards.GetAsync(lesson, id, cancel));
        using var work = new WorkFolder(Directory.CreateDirectory(files.Board(lesson, id)).FullName);
        var copies = await pictures.ImportScanAsync(original, ScanSettings.AsItIs with { Turn = ((turn % 4) + 4) % 4 }, work.Inner("turned"), cancel);
        return await File.ReadAllBytesAsync(Path.Combine(work.Path, "turned", copies[Math.Min(1, copies.Count - 1)].Name), cancel);
    }

    /// <summary>Divides a double page where its two pages meet: the board keeps the left page, a new one after it gets the right page.</summary>
    /// <exception cref="Refusal">The board has no original.</exception>
    public async Task<BoardRow> DivideAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var board = await boards.GetAsync(lesson, id, cancel);
        var original = Original(board);
        var settings = board.Scan ?? ScanSettings.AsItIs;
        var (left, right) = settings.Divided(await scans.GutterAsync(original, settings, cancel));
        var other = new BoardRow
        {
            Id = Guid.CreateVersion7(),
            Kind = board.Kind,
            Title = Lessons.LessonService
                .Tidy($"{board.Title} (right page)", board.Title),
            Source = board.Source,
            Original = OriginalName,
            Scan = right.Check().Value,
        };
        var folder = Directory.CreateDirectory(files.Board(lesson, other.Id)).FullName;
        File.Copy(original, Path.Combine(folder, OriginalName));
        BoardService.SetPictures(other, await pictures.ImportScanAsync(original, other.Scan ?? right, folder, cancel));
        await SetAsync(lesson, id, left, cancel);
        var added = await boards.AddAfterAsync(board, other, cancel);
        await ReadAgainAsync(added, cancel);
        return added;
    }

    /// <summary>Turns, straightens, crops and lightens the original, and has its words read anew.</summary>
    /// <exception cref="Refusal">The settings leave nothing, or the board has no original.</exception>
    public async Task<BoardRow> SetAsync(Guid lesson, Guid id, ScanSettings settings, CancellationToken cancel)
    {
        var board = await boards.GetAsync(lesson, id, cancel);
        var original = Original(board);
        var (checkedSettings, fault) = settings.Check();
        if (fault is not null)
        {
            throw new Refusal(fault);
        }

        await ExchangeAsync(board, folder => pictures.ImportScanAsync(original, checkedSettings!, folder, cancel), cancel);
        board.Scan = checkedSettings;
        await db.SaveChangesAsync(cancel);
        await ReadAgainAsync(board, cancel);
        return board;
    }

    /// <summary>Puts a newer picture in the place of a board's picture and keeps everything on the board.</summary>
    /// <exception cref="MediaException">The file isn't a picture that can be used; the old one stays.</exception>
    public async Task<BoardRow> ReplaceAsync(Guid lesson, Guid id, string upload, CancellationToken cancel)
    {
        var board = await boards.GetAsync(lesson, id, cancel);
        if (board.Kind == BoardKind.Clip)
        {
            throw new Refusal("This is a media board. Add the newer film or sound as a board of its own and take this one out.");
        }

        var kind = await FileKinds.OfAsync(upload, cancel);
        switch (kind)
        {
            case FileKind.Svg:
                await ExchangeAsync(board, folder => pictures.ImportSvgAsync(upload, folder, cancel), cancel);
                board.Original = null;
                break;
            case FileKind.Png or FileKind.Jpeg or FileKind.WebP or FileKind.Heif:
                using (var work = new WorkFolder(files.Uploads(lesson)))
                {
                    var plain = await pictures.PlainAsync(upload, work.Inner("plain"), cancel);
                    await ExchangeAsync(board, folder => pictures.ImportAsync(plain, folder, cancel), cancel);
                    File.Copy(plain, Path.Combine(files.Board(lesson, id), OriginalName), overwrite: true);
                }

                board.Original = OriginalName;
                break;
            default:
                throw new Refusal("A board's picture can be replaced by a PNG, JPEG, WebP, HEIC, AVIF or SVG picture. The old picture was kept.");
        }

        board.Scan = null;
        board.Kind = board.Kind == BoardKind.Empty ? BoardKind.Picture : board.Kind;
        await db.SaveChangesAsync(cancel);
        await ReadAgainAsync(board, cancel);
        return board;
    }

    /// <summary>Adds a board that shows two others beside each other, after the first.</summary>
    public async Task<BoardRow> PutSideBySideAsync(Guid lesson, Guid left, Guid right, CancellationToken cancel)
    {
        var (one, other) = (await boards.GetAsync(lesson, left, cancel), await boards.GetAsync(lesson, right, cancel));
        if (Sharpest(one) is not { } onePicture || Sharpest(other) is not { } otherPicture)
        {
            throw new Refusal("Only boards with a picture can be put side by side. Choose two that have one.");
        }

        var board = new BoardRow { Id = Guid.CreateVersion7(), Kind = BoardKind.Picture, Title = $"{one.Title} | {other.Title}" };
        var copies = await pictures.JoinAsync(onePicture, otherPicture, files.Board(lesson, board.Id), cancel);
        BoardService.SetPictures(board, copies);
        board.Title = Lessons.LessonService.Tidy(board.Title, "Side by side");
        var added = await boards.AddAfterAsync(one, board, cancel);
        await ReadAgainAsync(added, cancel);
        return added;
    }

    // New copies are made beside the old ones under names of their own, and only then named in the database.
    private async Task ExchangeAsync(BoardRow board, Func<string, Task<IReadOnlyList<PictureFile>>> make, CancellationToken cancel)
    {
        var folder = Directory.CreateDirectory(files.Board(board.LessonId, board.Id)).FullName;
        var draft = Path.Combine(folder, $"draft-{Guid.NewGuid():N}");
        try
        {
            var copies = await make(draft);
            var revision = board.Revision + 1;
            var named = copies.Select(c => c with { Name = RevisedName(revision, c.Name) }).ToArray();
            foreach (var (copy, name) in copies.Zip(named))
            {
                File.Move(Path.Combine(draft, copy.Name), Path.Combine(folder, name.Name), overwrite: true);
            }

            BoardService.SetPictures(board, named);
            board.Revision = revision;
            DeleteBefore(folder, revision - 1);
        }
        finally
        {
            LessonFiles.Discard(draft);
        }
    }

    /// <summary>Whether a file in a board's folder is a copy of its picture, of whatever revision.</summary>
    public static bool IsCopy(string name) =>
        CopyNames.Contains(name.StartsWith('r') && name.IndexOf('-', StringComparison.Ordinal) is > 1 and var dash ? name[(dash + 1)..] : name);

    // Another window may still show the revision before; nobody shows earlier ones. Publications have names of their own for theirs.
    private static void DeleteBefore(string folder, int revision)
    {
        for (var old = revision - 1; old >= 0; old--)
        {
            foreach (var name in CopyNames)
            {
                File.Delete(Path.Combine(folder, RevisedName(old, name)));
            }
        }
    }

    private static string RevisedName(int revision, string name) => revision == 0 ? name : $"r{revision}-{name}";

    private async Task ReadAgainAsync(BoardRow board, CancellationToken cancel)
    {
        await boards.WriteWordsAsync(board.LessonId, board.Id, TextLayer.Empty, cancel);
        await jobs.AddAsync(JobKind.Read, board.LessonId, board.Id.ToString("N"), board.Title, cancel);
    }

    private string Original(BoardRow board) => board.Original is { } name
        ? Path.Combine(files.Board(board.LessonId, board.Id), name)
        : throw new Refusal("Only boards made of a photograph or scan can be set. Pages that hold their own words are straight already.");

    private string? Sharpest(BoardRow board) => board.InPixels.LastOrDefault() is { } picture
        ? Path.Combine(files.Board(board.LessonId, board.Id), picture.File)
        : null;
}
