using System.Collections.Concurrent;
using System.Text;
using System.Text.Json;
using System.Threading.Channels;
using CliWrap;

namespace ArchTalk.Media.Boxes;

/// <summary>The reader program in its box, asked by lines of JSON as long as this is open.</summary>
internal sealed class BoxedReader : IAsyncDisposable
{
    // A page with a hundred thousand words has an answer of some 10 MB.
    private const int LongestAnswer = 32 << 20;
    // What comes out of the box may be anything: nothing is missing that its type says is there.
    private static readonly JsonSerializerOptions Strict = new() { RespectNullableAnnotations = true, RespectRequiredConstructorParameters = true };
    private static readonly TimeSpan LongestStay = TimeSpan.FromHours(1);
    private static readonly TimeSpan Ending = TimeSpan.FromSeconds(5);

    private readonly Channel<string> questions = Channel.CreateUnbounded<string>();
    private readonly ConcurrentDictionary<int, TaskCompletionSource<JsonElement>> open = new();
    private readonly CancellationTokenSource stop;
    private readonly MediaLimits limits;
    private readonly Task run;
    private BoxView? view;
    private int last;

    /// <param name="cancel">Ends the reader at once.</param>
    public BoxedReader(Box box, MediaLimits limits, IReadOnlyList<string> inputs, string? output, CancellationToken cancel)
    {
        this.limits = limits;
        stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        questions.Writer.TryWrite(JsonSerializer.Serialize(limits));
        run = RunAsync(box, new BoxedProgram(Box.Dotnet, v => [(view = v).Reader], LongestStay)
        {
            Inputs = inputs,
            Output = output,
            MemoryMegabytes = limits.MemoryMegabytes,
            Input = PipeSource.Create(WriteAsync),
            Said = PipeTarget.Create(ReadAsync),
        });
    }

    /// <summary>Asks and waits for the answer.</summary>
    /// <param name="ask">The question, made of the paths as the reader sees them.</param>
    /// <exception cref="MediaException">What is wrong with the file.</exception>
    /// <exception cref="ProgramStoppedException">The reader died of it, or took too long.</exception>
    public async Task<T> AskAsync<T>(Func<BoxView, Question<T>> ask, CancellationToken cancel)
    {
        while (view is null)
        {
            // The box is being tried for the first time.
            await Task.WhenAny(run, Task.Delay(5, cancel));
            if (run.IsCompleted)
            {
                await run;
            }
        }

        var id = Interlocked.Increment(ref last);
        var answer = open[id] = new(TaskCreationOptions.RunContinuationsAsynchronously);
        try
        {
            questions.Writer.TryWrite(JsonSerializer.Serialize(new Asked(id, ask(view))));
            await Task.WhenAny(answer.Task, run).WaitAsync(TimeSpan.FromSeconds(limits.SecondsPerPage), cancel);
            if (!answer.Task.IsCompleted)
            {
                await run;
                throw new ProgramStoppedException("The program that reads it ended before it was read. Save or export it anew, and add that.");
            }

            return (await answer.Task).Deserialize<T>(Strict) ?? throw new JsonException("An answer without a value.");
        }
        catch (TimeoutException e)
        {
            await stop.CancelAsync();
            throw Box.TooSlow(limits.SecondsPerPage, e);
        }
        catch (Exception e) when (e is JsonException or ArgumentException or NotSupportedException)
        {
            throw new MediaException("It could not be read: what came of it makes no sense. Save or export it anew, and add that.", e);
        }
        finally
        {
            open.TryRemove(id, out _);
        }
    }

    public async ValueTask DisposeAsync()
    {
        questions.Writer.TryComplete();
        await Task.WhenAny(run, Task.Delay(Ending));
        await stop.CancelAsync();
        await run.ContinueWith(_ => { }, TaskScheduler.Default);
        stop.Dispose();
    }

    private async Task RunAsync(Box box, BoxedProgram program) => await box.RunAsync(program, stop.Token);

    private async Task WriteAsync(Stream target, CancellationToken cancel)
    {
        await foreach (var line in questions.Reader.ReadAllAsync(cancel))
        {
            await target.WriteAsync(Encoding.UTF8.GetBytes(line + "\n"), cancel);
            await target.FlushAsync(cancel);
        }
    }

    private async Task ReadAsync(Stream source, CancellationToken cancel)
    {
        using var line = new MemoryStream();
        var buffer = new byte[1 << 16];
        for (int read; (read = await source.ReadAsync(buffer, cancel)) > 0;)
        {
            for (var rest = buffer.AsMemory(0, read); rest.Length > 0;)
            {
                var end = rest.Span.IndexOf((byte)'\n');
                line.Write(rest.Span[..(end < 0 ? rest.Length : end)]);
                rest = end < 0 ? default : rest[(end + 1)..];
                if (line.Length > LongestAnswer)
                {
                    throw Box.TooMuchSaid();
                }

                if (end >= 0)
                {
                    Take(line.GetBuffer().AsSpan(0, (int)line.Length));
                    line.SetLength(0);
                }
            }
        }
    }

    private void Take(ReadOnlySpan<byte> line)
    {
        var answered = JsonSerializer.Deserialize<Answered>(line);
        if (answered is null || !open.TryGetValue(answered.Id, out var waiting))
        {
            return;
        }

        if (answered is { Fault: null, Answer: { } answer })
        {
            waiting.TrySetResult(answer);
        }
        else
        {
            waiting.TrySetException(new MediaException(answered.Fault ?? "It could not be read. Save or export it anew, and add that."));
        }
    }
}
