using ArchTalk.Data.Entities;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

namespace ArchTalk.Data;

/// <summary>What is queried, in SQLite. What is streamed lies in files (<see cref="Files.LessonFiles"/>).</summary>
public sealed class ArchTalkDb(DbContextOptions<ArchTalkDb> options) : IdentityUserContext<Teacher>(options)
{
    public DbSet<Unit> Units => Set<Unit>();

    public DbSet<Lesson> Lessons => Set<Lesson>();

    public DbSet<BoardRow> Boards => Set<BoardRow>();

    public DbSet<TakeRow> Takes => Set<TakeRow>();

    public DbSet<Publication> Publications => Set<Publication>();

    public DbSet<SectionState> SectionStates => Set<SectionState>();

    public DbSet<Attachment> Attachments => Set<Attachment>();

    public DbSet<Session> Sessions => Set<Session>();

    public DbSet<Job> Jobs => Set<Job>();

    /// <summary>Saves, and raises the revision of every lesson of which something is changed that it is compiled from.</summary>
    public override async Task<int> SaveChangesAsync(bool acceptAllChangesOnSuccess, CancellationToken cancellationToken = default)
    {
        ChangeTracker.DetectChanges();
        var changed = ChangeTracker.Entries().Where(e => e.State is EntityState.Added or EntityState.Modified or EntityState.Deleted)
            .Select(LessonOf).OfType<Guid>().Distinct().ToArray();
        if (changed.Length == 0)
        {
            return await base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
        }

        await using var own = Database.CurrentTransaction is null ? await Database.BeginTransactionAsync(cancellationToken) : null;
        var count = await base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
        await Lessons.Where(l => changed.Contains(l.Id))
            .ExecuteUpdateAsync(s => s.SetProperty(l => l.Revision, l => l.Revision + 1), cancellationToken);
        if (own is not null)
        {
            await own.CommitAsync(cancellationToken);
        }

        return count;
    }

    /// <exception cref="NotSupportedException">Always: writing is asynchronous here.</exception>
    public override int SaveChanges(bool acceptAllChangesOnSuccess) => throw new NotSupportedException($"Use {nameof(SaveChangesAsync)}.");

    // The lesson that is compiled from an entity.
    private static Guid? LessonOf(EntityEntry entry) => entry.Entity switch
    {
        BoardRow board => board.LessonId,
        TakeRow take => take.LessonId,
        SectionState section => section.LessonId,
        Lesson lesson when entry.Property(nameof(Lesson.Title)).IsModified || entry.Property(nameof(Lesson.UnitId)).IsModified => lesson.Id,
        _ => null,
    };

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
