using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Data;
using ArchTalk.Data.Files;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Setup;
using ArchTalk.Web.Timelines;
using Microsoft.EntityFrameworkCore;
using ArchTalk.Data.Entities;

namespace ArchTalk.Web.Recording;

/// <summary>What a recorder needs to write to a take.</summary>
/// <param name="Token">Sent with every upload, so that an expired sign-in doesn't lose a lesson.</param>
/// <param name="Epoch">This writer's number; the next writer's number shuts it out.</param>
/// <param name="Next">The sequence number to go on with.</param>
/// <param name="LastEpoch">The writer of the last record before it; 0 when there is none.</param>
/// <param name="TakenBackMs">How much of that retakes took back.</param>
/// <param name="NextSegment">The segment number to go on with.</param>
/// <param name="NextAction">The stroke or action number to go on with.</param>
/// <param name="IsTestVoice">Whether it was recorded with the test voice; null when nothing was.</param>
public sealed record OpenTake(
    Guid Take,
    string Token,
    int Epoch,
    uint Next,
    int LastEpoch,
    double SavedMs,
    double TakenBackMs,
    int NextSegment,
    int NextAction,
    bool? IsTestVoice);

/// <summary>What became of an upload.</summary>
public enum UploadOutcome
{
    Saved = 0,
    Gap = 1,
    Conflict = 2,
    Fenced = 3,
    Damaged = 4,
    WrongToken = 5,
    Ended = 6,

    /// <summary>The server's disk failed or is full; nothing of the upload counts as saved.</summary>
    Disk = 7,
}

/// <summary>The answer to an upload: what became of it, and where the journal stands.</summary>
public sealed record UploadAnswer(UploadOutcome Outcome, uint Next, double SavedMs);

/// <summary>A take as the Record page lists it.</summary>
/// <param name="Number">Its place among the takes of the lesson, from 1; 0 when it was put aside.</param>
/// <param name="IsFound">It was found on the disk; the list had lost it.</param>
/// <param name="Next">The sequence number an open take goes on with; 0 when it has ended.</param>
/// <param name="LastEpoch">The writer of an open take's last record; 0 when there is none.</param>
public sealed record TakeView(
    Guid Id,
    int Number,
    DateTimeOffset StartedAt,
    double LengthMs,
    bool IsOpen,
    bool IsAside,
    bool IsFound,
    uint Next,
    int LastEpoch);

/// <summary>
/// Starts takes, takes in what recorders send, and ends takes. A take has ended when its journal holds the end; the row follows
/// whenever somebody looks, so that no kill comes between the two.
/// </summary>
public sealed partial class RecordingService(
    ArchTalkDb db,
    TakeJournals journals,
    TakeSounds sounds,
    SectionService sections,
    LessonCompiler compiler,
    LessonFiles files,
    TimeProvider clock,
    ILogger<RecordingService> log)
{
    private const string Finished = "This take is finished, so nothing can be added to it. Start another take; it goes on where this one ends.";

    // As far as a recorder keeps its own sound at hand.
    private static readonly Duration PhrasesWithin = Duration.FromSeconds(180);

    // A record names its writer in two bytes.
    private const int MostEpochs = ushort.MaxValue;

    public async Task<OpenTake> StartAsync(Guid lesson, CancellationToken cancel)
    {
        var token = NewToken();
        var take = new TakeRow
        {
            Id = Guid.CreateVersion7(),
            LessonId = lesson,
            Order = await NextOrderAsync(lesson, cancel),
            StartedAt = clock.GetUtcNow(),
            TokenHash = Hash(token),
            Epoch = 1,
        };
        db.Takes.Add(take);
        await db.SaveChangesAsync(cancel);
        return await InTurnAsync(take, _ => Task.FromResult(new OpenTake(take.Id, token, take.Epoch, 0, 0, 0, 0, 0, 1, null)), cancel);
    }

    /// <summary>Opens an unfinished take for the lesson's teacher in another tab, with a new token and epoch: the old tab is shut out.</summary>
    /// <exception cref="Refusal">It has ended.</exception>
    public async Task<OpenTake> ReopenAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var take = await db.Takes.SingleOrDefaultAsync(t => t.Id == id && t.LessonId == lesson && t.DeletedAt == null, cancel)
            ?? throw new Refusal(Finished);
        var token = NewToken();
        return await InTurnAsync(take, async journal =>
        {
            if (take.EndedAt is not null || take.Epoch >= MostEpochs)
            {
                throw new Refusal(Finished);
            }

            take.TokenHash = Hash(token);
            take.Epoch++;
            await db.SaveChangesAsync(cancel);
            return Describe(take, token, journal);
        }, cancel);
    }

    /// <summary>The take that was begun and not finished; null when there is none.</summary>
    public Task<Guid?> UnfinishedAsync(Guid lesson, CancellationToken cancel) =>
        db.Takes.Where(t => t.LessonId == lesson && t.DeletedAt == null && t.EndedAt == null).OrderBy(t => t.Order).Select(t => (Guid?)t.Id)
            .LastOrDefaultAsync(cancel);

    /// <summary>The take that a token lets in; null when it lets in nowhere. Asked before anything else of an upload is read.</summary>
    public async Task<TakeRow?> AdmitAsync(Guid id, string token, CancellationToken cancel) =>
        await db.Takes.SingleOrDefaultAsync(t => t.Id == id, cancel) is { } take && Matches(take, token) ? take : null;

    /// <summary>Appends what a recorder sent. Once it answers <see cref="UploadOutcome.Saved"/> the bytes are on the disk.</summary>
    public async Task<UploadAnswer> AppendAsync(TakeRow take, string token, ReadOnlyMemory<byte> body, CancellationToken cancel)
    {
        var records = ReadAll(take.Id, body);
        try
        {
            return await InTurnAsync(take, async journal =>
            {
                var outcome = UploadOutcome.Damaged;
                if (!Matches(take, token))
                {
                    // Another tab has taken over while this upload waited.
                    outcome = UploadOutcome.WrongToken;
                }
                else if (records is not null)
                {
                    outcome = OutcomeOf(journal.Append(records, take.Epoch));
                    Listen(take);
                    await FollowAsync(take, journal, cancel);
                }

                return new UploadAnswer(outcome, journal.NextSequence, new Duration(journal.SavedSamples).Milliseconds);
            }, cancel);
        }
        catch (IOException e)
        {
            LogDiskFailed(log, take.Id, e);
            return new UploadAnswer(UploadOutcome.Disk, 0, 0);
        }
    }

    /// <summary>Where somebody speaks in the last minutes of what was saved of a take, for its recorder to go back between phrases.</summary>
    public async Task<IReadOnlyList<HeardPhrase>> LastPhrasesAsync(TakeRow take, CancellationToken cancel) =>
        await InTurnAsync(take, _ => Task.FromResult(journals.LastPhrases(take.LessonId, take.Id, PhrasesWithin)), cancel);

    /// <summary>Ends an interrupted take with what was saved of it.</summary>
    public async Task FinishAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        const string Already = "This take is finished already. Reload the page to see it.";
        var take = await db.Takes.SingleOrDefaultAsync(t => t.Id == id && t.LessonId == lesson && t.EndedAt == null, cancel)
            ?? throw new Refusal(Already);
        await InTurnAsync(take, async journal =>
        {
            if (take.EndedAt is null)
            {
                take.Epoch++;
                journal.Append([new JournalRecord(JournalRecordKind.End, (ushort)take.Epoch, journal.NextSequence, default)], take.Epoch);
                await FollowAsync(take, journal, cancel);
            }

            return true;
        }, cancel);
    }

    /// <summary>The takes of a lesson in order, and with them those that were put aside.</summary>
    public async Task<IReadOnlyList<TakeView>> ListAsync(Guid lesson, CancellationToken cancel)
    {
        var takes = await db.Takes.Where(t => t.LessonId == lesson).OrderBy(t => t.Order).ToListAsync(cancel);
        var views = new List<TakeView>();
        var number = 0;
        foreach (var take in takes)
        {
            var isAside = take.DeletedAt is not null;
            var (saved, next, last) = take.EndedAt is null
                ? await InTurnAsync(take, j => Task.FromResult((j.SavedSamples, j.NextSequence, j.LastEpoch)), cancel)
                : (take.Samples, 0u, 0);
            var length = new Duration(saved).Milliseconds;
            views.Add(new TakeView(
                take.Id, isAside ? 0 : ++number, take.StartedAt, length, take.EndedAt is null, isAside, take.IsFound, next, last));
        }

        return views;
    }

    /// <summary>Puts a take aside (or back); its journal is kept.</summary>
    public async Task SetDeletedAsync(Guid lesson, Guid id, bool deleted, CancellationToken cancel)
    {
        var take = await db.Takes.SingleOrDefaultAsync(t => t.Id == id && t.LessonId == lesson, cancel)
            ?? throw new Refusal("The take is not there any more. Reload the page to see the takes as they are.");
        if (deleted)
        {
            await PlaceAsync(lesson, id, isThere: false, cancel);
        }

        take.DeletedAt = deleted ? clock.GetUtcNow() : null;
        await db.SaveChangesAsync(cancel);
        if (!deleted)
        {
            await PlaceAsync(lesson, id, isThere: true, cancel);
        }
    }

    /// <summary>
    /// Looks for journals that no row knows, as after the database was put back from a copy. Each becomes a take that is put
    /// aside, from where the teacher can put it back.
    /// </summary>
    public async Task FindLostAsync(CancellationToken cancel)
    {
        var known = (await db.Takes.Select(t => t.Id).ToListAsync(cancel)).ToHashSet();
        foreach (var lesson in await db.Lessons.Select(l => l.Id).ToListAsync(cancel))
        {
            foreach (var folder in Directory.Exists(files.Takes(lesson)) ? Directory.EnumerateDirectories(files.Takes(lesson)) : [])
            {
                if (Guid.TryParseExact(Path.GetFileName(folder), "N", out var id) && !known.Contains(id) && File.Exists(files.Journal(lesson, id)))
                {
                    await AddFoundAsync(lesson, id, cancel);
                }
            }
        }
    }

    private async Task AddFoundAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var file = new FileInfo(files.Journal(lesson, id));
        try
        {
            var read = TakeJournals.Read(file.FullName);
            if (read.Length == Duration.Zero)
            {
                return;
            }

            LogFound(log, id, lesson);
            db.Takes.Add(new TakeRow
            {
                Id = id,
                LessonId = lesson,
                Order = await NextOrderAsync(lesson, cancel),
                StartedAt = new DateTimeOffset(file.LastWriteTimeUtc) - TimeSpan.FromMilliseconds(read.Length.Milliseconds),
                EndedAt = new DateTimeOffset(file.LastWriteTimeUtc),
                Samples = read.Length.Samples,
                DeletedAt = clock.GetUtcNow(),
                IsFound = true,
            });
            await db.SaveChangesAsync(cancel);
        }
        catch (InvalidDataException e)
        {
            LogUnreadable(log, file.FullName, e);
        }
    }

    private async Task<int> NextOrderAsync(Guid lesson, CancellationToken cancel) =>
        1 + (await db.Takes.Where(t => t.LessonId == lesson).MaxAsync(t => (int?)t.Order, cancel) ?? -1);

    // The row is read again within the turn, since another request may have changed it while this one waited.
    private Task<T> InTurnAsync<T>(TakeRow take, Func<JournalFile, Task<T>> work, CancellationToken cancel) =>
        journals.UseAsync(take.LessonId, take.Id, async journal =>
        {
            await db.Entry(take).ReloadAsync(cancel);
            await FollowAsync(take, journal, cancel);
            return await work(journal);
        }, cancel);

    // What is heard in it is worked out as it comes. It never stands in the way of recording: without it, it is measured later.
    private void Listen(TakeRow take)
    {
        try
        {
            journals.Listen(take.LessonId, take.Id);
        }
        catch (Exception e) when (e is IOException or InvalidDataException or UnauthorizedAccessException)
        {
            LogNotHeard(log, take.Id, e);
        }
    }

    // The row follows the journal.
    private async Task FollowAsync(TakeRow take, JournalFile journal, CancellationToken cancel)
    {
        if (journal.IsEnded && take.EndedAt is null)
        {
            var read = TakeJournals.Read(files.Journal(take.LessonId, take.Id));
            take.EndedAt = clock.GetUtcNow();
            take.Samples = read.Live.Length.Samples;
            if (read.Place is not null)
            {
                await PlaceAsync(take.LessonId, take.Id, isThere: true, cancel);
            }

            await AddNotedAsync(take.LessonId, read, cancel);
            await db.SaveChangesAsync(cancel);
        }
    }

    // What was recorded for a place of the lesson comes in there, once; put aside, what it replaced is there again.
    private async Task PlaceAsync(Guid lesson, Guid take, bool isThere, CancellationToken cancel)
    {
        try
        {
            var arrangement = (await compiler.CompileAsync(lesson, cancel)).Arrangement;
            if (arrangement.Logs.FirstOrDefault(l => l.Id.Value == take) is { Place: not null, IsEnded: true } placed
                && arrangement.Edits.Sequence.Any(r => r.Take == placed.Id) != isThere)
            {
                var after = isThere ? EditSteps.TakeIn(placed, arrangement) : EditSteps.PutBack(placed, arrangement);
                await sections.ChangeAsync<EditList>(
                    new(lesson, SectionKind.Edits), edits => edits with { Sequence = after.Edits.Sequence }, cancel, after.Said);
            }
        }
        catch (Exception e) when (e is Refusal or IOException or InvalidDataException)
        {
            // The take ends all the same; it is not in the lesson, and can be put aside and back.
            LogNotesNotAdded(log, take, e);
        }
    }

    // What was noted becomes entries of the lesson's lists, once: after a kill in between they are found there.
    private async Task AddNotedAsync(Guid lesson, TakeLog read, CancellationToken cancel)
    {
        var notes = TakeNotes.Of(read);
        try
        {
            if (notes.Any(n => n.Kind == NoteKind.Chapter))
            {
                await sections.ChangeAsync<IReadOnlyList<Chapter>>(
                    new(lesson, SectionKind.Chapters), chapters => TakeNotes.AddTo(chapters, read), cancel);
            }

            if (notes.Any(n => n.Kind is not (NoteKind.Chapter or NoteKind.FixLater or NoteKind.TermSaid)))
            {
                var phrases = (await sounds.MeasuresAsync(lesson, read, cancel)).Phrases;
                await sections.ChangeAsync<EditList>(
                    new(lesson, SectionKind.Edits), edits => TakeNotes.AddTo(edits, read, phrases), cancel, "Noted while recording");
            }
        }
        catch (Exception e) when (e is Refusal or IOException or InvalidDataException)
        {
            // A list that is full, say. The take ends all the same, and its notes stay in it.
            LogNotesNotAdded(log, read.Id.Value, e);
        }
    }

    private static UploadOutcome OutcomeOf(AppendResult result) => result switch
    {
        AppendResult.Saved => UploadOutcome.Saved,
        AppendResult.Gap => UploadOutcome.Gap,
        AppendResult.Fenced => UploadOutcome.Fenced,
        AppendResult.Ended => UploadOutcome.Ended,
        _ => UploadOutcome.Conflict,
    };

    private OpenTake Describe(TakeRow take, string token, JournalFile journal)
    {
        var path = files.Journal(take.LessonId, take.Id);
        using var file = TakeJournals.OpenToRead(path);
        var numbers = JournalNumbers.Of(JournalReader.Open(file)!.Entries());

        // Only then is what was drawn read, which may take a while.
        var takenBack = numbers.HasRetakes && TakeJournals.Read(path) is var read ? read.Length - read.Live.Length : Duration.Zero;
        return new OpenTake(
            take.Id, token, take.Epoch, journal.NextSequence, journal.LastEpoch, new Duration(journal.SavedSamples).Milliseconds,
            takenBack.Milliseconds, numbers.NextSegment, numbers.NextAction, numbers.IsTestVoice);
    }

    // Events that can't be used are noted here, kept as they came, and passed over when the take is read: what is around them holds.
    private List<JournalRecord>? ReadAll(Guid take, ReadOnlyMemory<byte> body)
    {
        var records = new List<JournalRecord>();
        while (!body.IsEmpty)
        {
            if (!JournalRecord.TryRead(body, out var record, out _) || !JournalPayloads.IsValid(record, out var bad))
            {
                return null;
            }

            if (bad > 0)
            {
                LogBadEvents(log, take, bad, record.Sequence);
            }

            records.Add(record);
            body = body[record.Size..];
        }

        return records;
    }

    private static string NewToken() => Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(24));

    private static string Hash(string token) => Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(token)));

    private static bool Matches(TakeRow take, string token) =>
        CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(take.TokenHash), Encoding.ASCII.GetBytes(Hash(token)));

    [LoggerMessage(LogLevel.Warning, "Take {Take}: {Count} events of record {Sequence} can't be used and are passed over.")]
    private static partial void LogBadEvents(ILogger log, Guid take, int count, uint sequence);

    [LoggerMessage(LogLevel.Warning, "What was noted in take {Take} could not be put into the lesson's lists.")]
    private static partial void LogNotesNotAdded(ILogger log, Guid take, Exception e);

    [LoggerMessage(LogLevel.Warning, "What was recorded of take {Take} could not be listened to; it is measured when it is needed.")]
    private static partial void LogNotHeard(ILogger log, Guid take, Exception e);

    [LoggerMessage(LogLevel.Error, "What was sent of take {Take} could not be written.")]
    private static partial void LogDiskFailed(ILogger log, Guid take, Exception e);

    [LoggerMessage(LogLevel.Warning, "The journal of take {Take} in lesson {Lesson} had no row; it is offered among the takes put aside.")]
    private static partial void LogFound(ILogger log, Guid take, Guid lesson);

    [LoggerMessage(LogLevel.Warning, "{Path} looks like a journal and can't be read; it is left as it is.")]
    private static partial void LogUnreadable(ILogger log, string path, Exception e);
}
