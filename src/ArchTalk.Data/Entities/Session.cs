namespace ArchTalk.Data.Entities;

/// <summary>A browser that is signed in. Without its row its cookie is worth nothing.</summary>
public sealed class Session
{
    /// <summary>SHA-256 of the key that the cookie carries, in hexadecimal.</summary>
    public string KeyHash { get; set; } = "";

    public string TeacherId { get; set; } = "";

    /// <summary>Who it is, as the framework writes it.</summary>
    public byte[] Ticket { get; set; } = [];

    public DateTimeOffset ExpiresAt { get; set; }
}
