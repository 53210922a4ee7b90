namespace ArchTalk.Core.Recording;

/// <summary>What students are to do with a key line.</summary>
public enum KeyLineKind
{
    /// <summary>They write it down.</summary>
    WriteDown = 0,

    /// <summary>They mark it in their own book.</summary>
    MarkInBook = 1,

    /// <summary>They only look at it.</summary>
    LookAt = 2,
}

/// <summary>The names of kinds in a journal and for players.</summary>
public static class KeyLineKinds
{
    private static readonly string[] Names = ["write", "mark", "look"];

    /// <summary>Null when it is none, or of a later release.</summary>
    public static KeyLineKind? Parse(string name) => Array.IndexOf(Names, name) is >= 0 and var index ? (KeyLineKind)index : null;

    public static string Name(KeyLineKind kind) => Names[(int)kind];
}
