namespace ArchTalk.Core.Recording;

/// <summary>What can be noted while recording, with one press.</summary>
public enum NoteKind
{
    /// <summary>Something here is to be seen to later.</summary>
    FixLater = 0,

    /// <summary>From here on it holds for this class or week only.</summary>
    OnlyThisTime = 1,

    /// <summary>A chapter begins.</summary>
    Chapter = 2,

    /// <summary>A thinking stop until the student goes on.</summary>
    Ask = 3,

    /// <summary>A thinking stop for a set time: say after me.</summary>
    SayAfterMe = 4,

    /// <summary>A thinking stop until the answer is shown.</summary>
    AskAndShow = 5,

    /// <summary>A term of the vocabulary is said; it has an event of its own.</summary>
    TermSaid = 6,
}

/// <summary>The names of kinds in a journal.</summary>
public static class NoteKinds
{
    private static readonly string[] Names = ["later", "once", "chapter", "ask", "repeat", "answer"];

    /// <summary>Null when it is of a later release.</summary>
    public static NoteKind? Parse(string name) => Array.IndexOf(Names, name) is >= 0 and var index ? (NoteKind)index : null;
}
