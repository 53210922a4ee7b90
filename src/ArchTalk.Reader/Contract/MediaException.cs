namespace ArchTalk.Reader.Contract;

/// <summary>
/// A file that can't be used, or a program that isn't there. The message is meant for the teacher: what happened and what to
/// do. It doesn't name the file; whoever shows it does.
/// </summary>
public class MediaException : Exception
{
    public MediaException(string message)
        : base(message)
    {
    }

    public MediaException(string message, Exception inner)
        : base(message, inner)
    {
    }

    public MediaException()
    {
    }
}

/// <summary>A program that isn't installed.</summary>
public sealed class ProgramMissingException : MediaException
{
    public ProgramMissingException(string message, Exception inner)
        : base(message, inner)
    {
    }

    public ProgramMissingException(string message)
        : base(message)
    {
    }

    public ProgramMissingException()
    {
    }
}

/// <summary>A program that died, or was stopped, over a file: trying once more may help, when the machine was busy.</summary>
public sealed class ProgramStoppedException : MediaException
{
    public ProgramStoppedException(string message, Exception inner)
        : base(message, inner)
    {
    }

    /// <param name="said">What the program said of it, for the log.</param>
    public ProgramStoppedException(string message, string said)
        : base(message, new InvalidOperationException(said))
    {
    }

    public ProgramStoppedException(string message)
        : base(message)
    {
    }

    public ProgramStoppedException()
    {
    }
}
