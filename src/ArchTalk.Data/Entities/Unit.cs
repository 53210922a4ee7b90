namespace ArchTalk.Data.Entities;

/// <summary>An ordered list of lessons.</summary>
public sealed class Unit
{
    public Guid Id { get; set; }

    public string TeacherId { get; set; } = "";

    public string Title { get; set; } = "";

    public int Order { get; set; }
}
