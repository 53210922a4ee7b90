using System.Collections.Concurrent;
using System.ComponentModel;
using System.Globalization;
using System.Runtime.InteropServices;
using CliWrap;
using CliWrap.Builders;

namespace ArchTalk.Media.Boxes;

/// <summary>
/// The one way in which programs are started. Each runs in a box of its own (bubblewrap): no network, no processes but its own, the
/// system's programs and fonts to read, an empty home, its input files, and one folder to write in. Memory, processor time, time,
/// and what it writes are bounded, and whatever it started ends with it.
/// </summary>
public sealed class Box(BoxOptions options, MediaLimits limits, string? hidden = null)
{
    /// <summary>Larger than anything a program says of itself; what hostile files make them say has no end.</summary>
    private const int MostSaid = 16 << 20;

    // Scratch lies in memory.
    private const int ScratchBytes = 256 << 20;
    private const int FirstSignal = 128;

    // What programs need of the system beside /usr; each is shown if it is there.
    private static readonly string[] SystemFiles =
    [
        "/etc/fonts", "/etc/alternatives", "/etc/ld.so.cache", "/etc/libreoffice", "/etc/ssl/openssl.cnf", "/var/cache/fontconfig",
    ];

    private static readonly string[] Links = ["/bin", "/sbin", "/lib", "/lib64"];
    private static readonly string Runtime = Path.GetFullPath(Path.Combine(RuntimeEnvironment.GetRuntimeDirectory(), "..", "..", ".."));
    private static readonly ConcurrentDictionary<string, Task<bool>> Tried = new(StringComparer.Ordinal);

    /// <summary>The program that runs <see cref="BoxView.Reader"/>.</summary>
    internal static string Dotnet { get; } = Path.Combine(Runtime, "dotnet");

    private static string ReaderFolder { get; } = Path.Combine(AppContext.BaseDirectory, "reader");

    /// <summary>Whether programs can be closed in here. It is tried once.</summary>
    public Task<bool> ClosesAsync() => Tried.GetOrAdd(options.Program, _ => TryAsync());

    /// <summary>Whether files of a kind that can reach for others (PDFs, decks, SVG pictures) are read here.</summary>
    public async Task<bool> ReadsAllKindsAsync() => options.ReadsFilesWithoutIt || await ClosesAsync();

    /// <exception cref="MediaException">Such files aren't read here.</exception>
    internal async Task RequireAsync()
    {
        if (!await ReadsAllKindsAsync())
        {
            throw new MediaException(
                "PDFs, decks and SVG pictures are not taken here, because the server can't open them safely: bubblewrap is not installed or not "
                    + "allowed. Add pages as PNG or JPEG pictures, or ask whoever runs the server; ./demo installs it.");
        }
    }

    /// <summary>Runs a program to its end.</summary>
    /// <returns>The end of what it said on standard error. Nothing of it is for teachers.</returns>
    /// <exception cref="ProgramMissingException">It isn't installed.</exception>
    /// <exception cref="ProgramStoppedException">It died, or asked for more than its limits.</exception>
    /// <exception cref="MediaException">It ended with an error.</exception>
    internal async Task<string> RunAsync(BoxedProgram program, CancellationToken cancel)
    {
        var isClosed = await ClosesAsync();
        var path = Find(program.Program)
            ?? throw new ProgramMissingException(
                $"The program {program.Program} is not installed on the server. Ask whoever runs it to install it; ./demo does so.");
        using var scratch = isClosed ? null : new WorkFolder(Path.GetTempPath());
        var view = isClosed
            ? new BoxView(
                [.. program.Inputs.Select((file, i) => $"/in/{i}/{Path.GetFileName(file)}")],
                program.Output is null ? null : "/out",
                "/tmp",
                "/reader/ArchTalk.Reader.dll")
            : new BoxView(program.Inputs, program.Output, scratch!.Path, Path.Combine(ReaderFolder, "ArchTalk.Reader.dll"));
        string[] arguments = [.. Limits(program), "--", .. isClosed ? Walls(program, path, view) : [], path, .. program.Arguments(view)];
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        stop.CancelAfter(program.Limit);
        var errors = new Tail();
        await using var watch = new BoxWatch(program, limits, stop);
        try
        {
            var command = Cli.Wrap("prlimit").WithArguments(arguments)
                .WithEnvironmentVariables(e => SetEnvironment(e, view, program.MemoryMegabytes))
                .WithStandardInputPipe(program.Input)
                .WithStandardOutputPipe(program.Said)
                .WithStandardErrorPipe(errors.Target)
                .WithValidation(CommandResultValidation.None);
            var run = await Starter.StartAsync(() => command.ExecuteAsync(stop.Token));
            watch.Begin(run.ProcessId);
            var result = await run;
            watch.CheckOutput();
            return result.ExitCode switch
            {
                0 => errors.Text,
                > FirstSignal => throw new ProgramStoppedException("Reading it took more than is allowed, or made the program that reads it break "
                    + "down. Save or export it anew, in another form if you can, and add that.", errors.Text),
                _ => throw new MediaException("It could not be read; it may be broken, or made in an unusual way. Save or export it anew, in "
                    + "another form if you can, and add that.", new InvalidDataException(errors.Text)),
            };
        }
        catch (OperationCanceledException e) when (!cancel.IsCancellationRequested)
        {
            throw watch.Reason is { } reason ? new ProgramStoppedException(reason, errors.Text)
                : TooSlow(program.Limit.TotalSeconds, e);
        }
        catch (Win32Exception e)
        {
            throw new ProgramMissingException("The program prlimit is not installed on the server. Ask whoever runs it to install util-linux.", e);
        }
    }

    /// <summary>Collects what a program says, up to a bound.</summary>
    internal static PipeTarget Collect(MemoryStream into) => PipeTarget.Create(async (source, cancel) =>
    {
        var buffer = new byte[1 << 16];
        for (int read; (read = await source.ReadAsync(buffer, cancel)) > 0;)
        {
            if (into.Length + read > MostSaid)
            {
                throw TooMuchSaid();
            }

            into.Write(buffer, 0, read);
        }
    });

    internal static ProgramStoppedException TooMuchSaid() =>
        new("Reading it gave more than can be kept. Divide it, or save it in a simpler form, and add that.");

    internal static ProgramStoppedException TooSlow(double seconds, Exception e) =>
        new($"Reading it did not finish within {seconds:0} seconds and was stopped. Divide it, or save it in a simpler form, and add that.", e);

    private static string? Find(string program) => program.Contains('/', StringComparison.Ordinal)
        ? File.Exists(program) ? program : null
        : (Environment.GetEnvironmentVariable("PATH") ?? "/usr/bin").Split(':').Select(f => Path.Combine(f, program)).FirstOrDefault(File.Exists);

    // The data segment, not the address space: runtimes reserve far more addresses than they use. Processor time for both cores.
    private IEnumerable<string> Limits(BoxedProgram program) =>
    [
        $"--data={(long)program.MemoryMegabytes << 20}", $"--cpu={(long)Math.Ceiling(program.Limit.TotalSeconds * 2)}",
            $"--fsize={limits.OutputBytes}",
        "--nofile=1024", "--core=0",
    ];

    private static void SetEnvironment(EnvironmentVariablesBuilder environment, BoxView view, int memoryMegabytes)
    {
        foreach (string name in Environment.GetEnvironmentVariables().Keys)
        {
            environment.Set(name, null);
        }

        environment.Set("PATH", "/usr/local/bin:/usr/bin:/bin").Set("HOME", view.Scratch).Set("TMPDIR", view.Scratch).Set("LANG", "C.UTF-8")
            .Set("DOTNET_EnableDiagnostics", "0").Set("DOTNET_TieredPGO", "0")

            // Two thirds for what the runtime manages; the rest is for pictures, which it doesn't.
            .Set("DOTNET_GCHeapHardLimit", $"{((long)memoryMegabytes << 20) * 2 / 3:X}");
    }

    private IEnumerable<string> Walls(BoxedProgram program, string path, BoxView view)
    {
        string[] walls =
        [
            options.Program, "--unshare-all", "--die-with-parent", "--new-session", "--cap-drop", "ALL", "--ro-bind", "/usr", "/usr",
            "--proc", "/proc", "--dev", "/dev", "--size", ScratchBytes.ToString(CultureInfo.InvariantCulture), "--tmpfs", "/tmp", "--chdir", "/tmp",
            .. Links.SelectMany(l => new DirectoryInfo(l) is { LinkTarget: { } target } ? new[] { "--symlink", target, l } : ["--ro-bind-try", l, l]),
            .. SystemFiles.SelectMany(s => new[] { "--ro-bind-try", s, s }),
            "--ro-bind-try", ReaderFolder, "/reader",
            .. IsSystem(Runtime) ? Array.Empty<string>() : ["--ro-bind", Runtime, Runtime],
            .. hidden is not null && IsSystem(hidden) ? ["--tmpfs", hidden] : Array.Empty<string>(),
            .. IsSystem(path) ? Array.Empty<string>() : ["--ro-bind", path, path],
            .. program.Inputs.Zip(view.Inputs).SelectMany(i => new[] { "--ro-bind", i.First, i.Second }),
        ];
        return program.Output is { } output ? [.. walls, "--bind", output, "/out", "--"] : [.. walls, "--"];
    }

    private static bool IsSystem(string path) =>
        path.StartsWith("/usr/", StringComparison.Ordinal) || Links.Any(l => path.StartsWith(l + "/", StringComparison.Ordinal));

    private async Task<bool> TryAsync()
    {
        try
        {
            var attempt = new BoxedProgram("true", _ => [], TimeSpan.FromSeconds(10));
            string[] arguments = [.. Walls(attempt, "/usr/bin/true", new BoxView([], null, "/tmp", "")).Skip(1), "/usr/bin/true"];
            return (await Cli.Wrap(options.Program).WithArguments(arguments).WithValidation(CommandResultValidation.None).ExecuteAsync())
                .ExitCode == 0;
        }
        catch (Win32Exception)
        {
            return false;
        }
    }
}
