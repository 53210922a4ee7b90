using ArchTalk.Data.Entities;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

namespace ArchTalk.Data;

/// <summary>What is queried, in SQLite. What is streamed lies in files (<see cref="Files.LessonFiles"/>).</summary>
public sealed class ArchTalkDb(DbContextOptions<ArchTalkDb> options) : IdentityUserContext<Teacher>(options)
{
    public DbSet<Unit> Units => Set<Unit>();

    public DbSet<Lesson> Lessons => Set<Lesson>();

    public DbSet<Board> Boards => Set<Board>();

    public DbSet<Take> Takes => Set<Take>();

    public DbSet<Publication> Publications => Set<Publication>();

    public DbSet<SectionState> SectionStates => Set<SectionState>();

    public DbSet<Attachment> Attachments => Set<Attachment>();

    public DbSet<Session> Sessions => Set<Session>();

    public DbSet<Job> Jobs => Set<Job>();

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.ApplyConfigurationsFromAssembly(typeof(ArchTalkDb).Assembly);
    }

    // SQLite has no type for instants; as UTC milliseconds they compare and sort.
    protected override void ConfigureConventions(ModelConfigurationBuilder configuration) =>
        configuration.Properties<DateTimeOffset>().HaveConversion<InstantConverter>();

    private sealed class InstantConverter() : ValueConverter<DateTimeOffset, long>(
        t => t.ToUnixTimeMilliseconds(), t => DateTimeOffset.FromUnixTimeMilliseconds(t));
}
