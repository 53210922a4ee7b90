namespace ArchTalk.Data.Entities;

/// <summary>What a job does.</summary>
public enum JobKind
{
    /// <summary>Turns an uploaded file into boards.</summary>
    Import = 0,

    /// <summary>Makes a publication.</summary>
    Publish = 2,

    /// <summary>Reads the words in a board's picture.</summary>
    Read = 3,

    /// <summary>Turns an uploaded film or sound into a board, which takes long.</summary>
    Film = 4,
}

/// <summary>Where a job stands.</summary>
public enum JobState
{
    Waiting = 0,
    Running = 1,
    Done = 2,
    Failed = 3,
    Cancelled = 4,
}

/// <summary>Long work, as a row that a worker leases; a worker that dies loses its lease and the job is taken again.</summary>
public sealed class Job
{
    public Guid Id { get; set; }

    public JobKind Kind { get; set; }

    public JobState State { get; set; }

    public Guid LessonId { get; set; }

    /// <summary>What to work on, in the words of the kind: a stored upload's name, a take's identity.</summary>
    public string Subject { get; set; } = "";

    /// <summary>What the teacher knows it as: a file's name.</summary>
    public string Title { get; set; } = "";

    public int Order { get; set; }

    /// <summary>Parts done and parts in all; 0 of 0 when not known yet.</summary>
    public int Done { get; set; }

    public int Total { get; set; }

    /// <summary>What went wrong, in words for the teacher.</summary>
    public string Message { get; set; } = "";

    public bool CancelRequested { get; set; }

    public int Attempts { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    public DateTimeOffset? StartedAt { get; set; }

    public DateTimeOffset? LeaseUntil { get; set; }

    public DateTimeOffset? FinishedAt { get; set; }
}
