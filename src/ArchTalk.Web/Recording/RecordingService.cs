using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;
using Take = ArchTalk.Data.Entities.Take;

namespace ArchTalk.Web.Recording;

/// <summary>What a recorder needs to write to a take.</summary>
/// <param name="Token">Sent with every upload, so that an expired sign-in doesn't lose a lesson.</param>
/// <param name="Epoch">This writer's number; the next writer's number shuts it out.</param>
/// <param name="Next">The sequence number to go on with.</param>
/// <param name="NextSegment">The segment number to go on with.</param>
/// <param name="NextAction">The stroke or action number to go on with.</param>
public sealed record OpenTake(Guid Take, string Token, int Epoch, uint Next, double SavedMs, int NextSegment, int NextAction);

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
}

/// <summary>The answer to an upload: what became of it, and where the journal stands.</summary>
public sealed record UploadAnswer(UploadOutcome Outcome, uint Next, double SavedMs);

/// <summary>A take as the Record page lists it.</summary>
/// <param name="Number">Its place among the takes of the lesson, from 1; 0 when it was put aside.</param>
public sealed record TakeView(Guid Id, int Number, DateTimeOffset StartedAt, double LengthMs, bool IsOpen, bool IsAside);

/// <summary>Starts takes, takes in what recorders send, and ends takes.</summary>
public sealed partial class RecordingService(ArchTalkDb db, TakeJournals journals, LessonFiles files, JobService jobs, TimeProvider clock, ILogger<RecordingService> log)
{
    public async Task<OpenTake> StartAsync(Guid lesson, CancellationToken cancel)
    {
        var token = NewToken();
        var take = new Take
        {
            Id = Guid.CreateVersion7(),
            LessonId = lesson,
            Order = 1 + (await db.Takes.Where(t => t.LessonId == lesson).MaxAsync(t => (int?)t.Order, cancel) ?? -1),
            StartedAt = clock.GetUtcNow(),
            TokenHash = Hash(token),
            Epoch = 1,
        };
        db.Takes.Add(take);
        await db.SaveChangesAsync(cancel);
        await journals.UseAsync(lesson, take.Id, _ => Task.FromResult(true), cancel);
        return new OpenTake(take.Id, token, take.Epoch, 0, 0, 0, 1);
    }

    /// <summary>Opens an unfinished take for the lesson's teacher in another tab, with a new token and epoch: the old tab is shut out.</summary>
    public async Task<OpenTake> ReopenAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var take = await db.Takes.SingleOrDefaultAsync(t => t.Id == id && t.LessonId == lesson && t.EndedAt == null && t.DeletedAt == null, cancel)
            ?? throw new Refusal("This take is finished, so nothing can be added to it. Start another take; it goes on where this one ends.");
        var token = NewToken();
        return await journals.UseAsync(lesson, id, async journal =>
        {
            take.TokenHash = Hash(token);
            take.Epoch++;
            await db.SaveChangesAsync(cancel);
            return await DescribeAsync(take, token, journal, cancel);
        }, cancel);
    }

    /// <summary>Opens an unfinished take by its token, to send what was left on the teacher's computer; null when the token is wrong.</summary>
    public async Task<OpenTake?> ResumeAsync(Guid id, string token, CancellationToken cancel)
    {
        var take = await db.Takes.SingleOrDefaultAsync(t => t.Id == id, cancel);
        if (take is null || !Matches(take, token))
        {
            return null;
        }

        return await journals.UseAsync(take.LessonId, id, async journal =>
        {
            take.Epoch++;
            await db.SaveChangesAsync(cancel);
            return await DescribeAsync(take, token, journal, cancel);
        }, cancel);
    }

    /// <summary>Appends what a recorder sent. Once it answers <see cref="UploadOutcome.Saved"/> the bytes are on the disk.</summary>
    public async Task<UploadAnswer> AppendAsync(Guid id, string token, int epoch, ReadOnlyMemory<byte> body, CancellationToken cancel)
    {
        var take = await db.Takes.SingleOrDefaultAsync(t => t.Id == id, cancel);
        if (take is null || !Matches(take, token))
        {
            return new UploadAnswer(UploadOutcome.WrongToken, 0, 0);
        }

        var records = ReadAll(id, body);
        return await journals.UseAsync(take.LessonId, id, async journal =>
        {
            UploadAnswer Answer(UploadOutcome outcome) => new(outcome, journal.NextSequence, new Duration(journal.SavedSamples).Milliseconds);

            // Read again within the turn: another tab may have taken over while this upload waited.
            await db.Entry(take).ReloadAsync(cancel);
            if (take.Epoch != epoch)
            {
                return Answer(UploadOutcome.Fenced);
            }

            if (records is null)
            {
                return Answer(UploadOutcome.Damaged);
            }

            if (journal.IsEnded)
            {
                return Answer(records.TrueForAll(r => r.Sequence < journal.NextSequence) ? UploadOutcome.Saved : UploadOutcome.Ended);
            }

            var result = journal.Append(records);
            if (journal.IsEnded)
            {
                await EndAsync(take, cancel);
            }

            return Answer(result switch
            {
                AppendResult.Gap => UploadOutcome.Gap,
                AppendResult.Conflict => UploadOutcome.Conflict,
                _ => UploadOutcome.Saved,
            });
        }, cancel);
    }

    /// <summary>Ends an interrupted take with what was saved of it.</summary>
    public async Task FinishAsync(Guid lesson, Guid id, CancellationToken cancel)
    {
        var take = await db.Takes.SingleOrDefaultAsync(t => t.Id == id && t.LessonId == lesson && t.EndedAt == null, cancel)
            ?? throw new Refusal("This take is finished already. Reload the page to see it.");
        await journals.UseAsync(lesson, id, async journal =>
        {
            take.Epoch++;
            if (!journal.IsEnded)
            {
                journal.Append([new JournalRecord(JournalRecordKind.End, (ushort)take.Epoch, journal.NextSequence, default)]);
            }

            await EndAsync(take, cancel);
            return true;
        }, cancel);
    }

    /// <summary>The takes of a lesson in order, and with them those that were put aside.</summary>
    public async Task<IReadOnlyList<TakeView>> ListAsync(Guid lesson, CancellationToken cancel)
    {
        var takes = await db.Takes.AsNoTracking().Where(t => t.LessonId == lesson).OrderBy(t => t.Order).ToListAsync(cancel);
        var views = new List<TakeView>();
        var number = 0;
        foreach (var take in takes)
        {
            var isAside = take.DeletedAt is not null;
            var saved = take.EndedAt is null
                ? await journals.UseAsync(lesson, take.Id, j => Task.FromResult(j.SavedSamples), cancel)
                : take.Samples;
            views.Add(new TakeView(take.Id, isAside ? 0 : ++number, take.StartedAt, new Duration(saved).Milliseconds, take.EndedAt is null, isAside));
        }

        return views;
    }

    /// <summary>Puts a take aside (or back); its journal is kept.</summary>
    public async Task SetDeletedAsync(Guid lesson, Guid id, bool deleted, CancellationToken cancel)
    {
        var take = await db.Takes.SingleOrDefaultAsync(t => t.Id == id && t.LessonId == lesson, cancel)
            ?? throw new Refusal("The take is not there any more. Reload the page to see the takes as they are.");
        take.DeletedAt = deleted ? clock.GetUtcNow() : null;
        await db.SaveChangesAsync(cancel);
    }

    private async Task EndAsync(Take take, CancellationToken cancel)
    {
        var read = await TakeJournals.ReadAsync(files.Journal(take.LessonId, take.Id), cancel);
        take.EndedAt = clock.GetUtcNow();
        take.Samples = read.Length.Samples;
        await db.SaveChangesAsync(cancel);
        if (take.Samples > 0)
        {
            await jobs.AddAsync(JobKind.Master, take.LessonId, take.Id.ToString(), "Lossless copy of the voice", cancel);
        }
    }

    private async Task<OpenTake> DescribeAsync(Take take, string token, JournalFile journal, CancellationToken cancel)
    {
        var bytes = await File.ReadAllBytesAsync(files.Journal(take.LessonId, take.Id), cancel);
        Journal.TryRead(bytes, out var read);
        var (segment, action) = JournalNumbers.Next(read!);
        return new OpenTake(
            take.Id, token, take.Epoch, journal.NextSequence, new Duration(journal.SavedSamples).Milliseconds, segment, action);
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

    private static bool Matches(Take take, string token) =>
        CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(take.TokenHash), Encoding.ASCII.GetBytes(Hash(token)));

    [LoggerMessage(LogLevel.Warning, "Take {Take}: {Count} events of record {Sequence} can't be used and are passed over.")]
    private static partial void LogBadEvents(ILogger log, Guid take, int count, uint sequence);
}
