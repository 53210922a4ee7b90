using System.Globalization;

namespace ArchTalk.Media.Boxes;

/// <summary>Looks at what a program and all it started take, while it runs; what one process may take is bounded by the system already.</summary>
internal sealed class BoxWatch(BoxedProgram program, MediaLimits limits, CancellationTokenSource stop) : IAsyncDisposable
{
    private const int MostProcesses = 100;
    private static readonly TimeSpan Pace = TimeSpan.FromMilliseconds(200);
    private static readonly EnumerationOptions Everything = new()
    {
        RecurseSubdirectories = true,
        AttributesToSkip = FileAttributes.ReparsePoint,
        IgnoreInaccessible = true
    };
    private readonly CancellationTokenSource done = new();
    private Task looking = Task.CompletedTask;

    /// <summary>Why it was stopped, or null.</summary>
    public string? Reason { get; private set; }

    public void Begin(int process) => looking = LookAsync(process);

    /// <exception cref="ProgramStoppedException">It has written more than is allowed.</exception>
    public void CheckOutput()
    {
        if (TooMuchWritten() is { } reason)
        {
            throw new ProgramStoppedException(reason);
        }
    }

    public async ValueTask DisposeAsync()
    {
        await done.CancelAsync();
        await looking;
        done.Dispose();
    }

    private async Task LookAsync(int root)
    {
        try
        {
            while (true)
            {
                await Task.Delay(Pace, done.Token);
                var tree = Tree(root).Take(MostProcesses + 1).ToArray();
                Reason = tree.Length > MostProcesses
                    ? "Reading it started far too many programs and was stopped. Save or export it anew, and add that."
                    : tree.Sum(
                        Resident) > (long)program.MemoryMegabytes << 20 ? $"Reading it takes more than {program.MemoryMegabytes} MB of memory and "
                            + $"was stopped. Divide it, or save it with smaller pictures, and add that."
                    : TooMuchWritten();
                if (Reason is not null)
                {
                    await stop.CancelAsync();
                    return;
                }
            }
        }
        catch (OperationCanceledException)
        {
            // It has ended by itself.
        }
    }

    private string? TooMuchWritten()
    {
        if (program.Output is null)
        {
            return null;
        }

        var (bytes, files) = (0L, 0);
        foreach (var file in new DirectoryInfo(program.Output).EnumerateFiles("*", Everything))
        {
            (bytes, files) = (bytes + BytesOf(file), files + 1);
            if (bytes > limits.OutputBytes || files > limits.OutputFiles)
            {
                return $"Reading it gave more than {limits.OutputBytes >> 20} MB or {limits.OutputFiles} files and was stopped. Divide it, and add "
                    + $"the parts.";
            }
        }

        return null;
    }

    private static long BytesOf(FileInfo file)
    {
        try
        {
            return file.Length;
        }
        catch (FileNotFoundException)
        {
            // The program has just deleted it.
            return 0;
        }
    }

    private static IEnumerable<int> Tree(int process)
    {
        yield return process;
        foreach (var child in Read($"/proc/{process}/task/{process}/children").Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            foreach (var below in Tree(int.Parse(child, CultureInfo.InvariantCulture)))
            {
                yield return below;
            }
        }
    }

    // proc(5): the second number of statm is resident pages.
    private static long Resident(int process) =>
        Read($"/proc/{process}/statm").Split(' ') is [_, var pages, ..] && long.TryParse(pages, CultureInfo.InvariantCulture, out var count)
            ? count * Environment.SystemPageSize : 0;

    private static string Read(string file)
    {
        try
        {
            return File.ReadAllText(file);
        }
        catch (IOException)
        {
            // It has just ended.
            return "";
        }
    }
}
