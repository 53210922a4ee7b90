using CliWrap;

namespace ArchTalk.Media.Boxes;

/// <summary>A program to be started, and all that it gets to see.</summary>
/// <param name="Arguments">Made of the paths as the program sees them.</param>
/// <param name="Limit">After this it is stopped.</param>
internal sealed record BoxedProgram(string Program, Func<BoxView, IEnumerable<string>> Arguments, TimeSpan Limit)
{
    /// <summary>Files that it may read.</summary>
    public IReadOnlyList<string> Inputs { get; init; } = [];

    /// <summary>The one folder in which it may write, or null.</summary>
    public string? Output { get; init; }

    public int MemoryMegabytes { get; init; } = 1536;

    public PipeSource Input { get; init; } = PipeSource.Null;

    public PipeTarget Said { get; init; } = PipeTarget.Null;
}

/// <summary>Where things are for the program: in the box, or on the machine itself where it isn't closed in.</summary>
/// <param name="Scratch">A folder for what nobody needs afterwards.</param>
internal sealed record BoxView(IReadOnlyList<string> Inputs, string? Output, string Scratch, string Reader)
{
    public string Out(string name) => Path.Combine(Output ?? throw new InvalidOperationException("The program has no output folder."), name);
}
