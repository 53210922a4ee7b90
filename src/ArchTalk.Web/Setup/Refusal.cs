namespace ArchTalk.Web.Setup;

/// <summary>Something a person asked for that can't be done, said so that they know what is kept and what to do.</summary>
public sealed class Refusal : Exception
{
    public Refusal(string message)
        : base(message)
    {
    }

    public Refusal(string message, Exception inner)
        : base(message, inner)
    {
    }

    public Refusal()
    {
    }

    /// <summary>The HTTP status that says it to scripts.</summary>
    public int Status { get; init; } = StatusCodes.Status422UnprocessableEntity;
}
