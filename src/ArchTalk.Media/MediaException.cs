namespace ArchTalk.Media;

/// <summary>
/// A file that can't be used, or a program that isn't there. The message is meant for the teacher: what happened and what to
/// do. It doesn't name the file; whoever shows it does.
/// </summary>
public sealed class MediaException : Exception
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
