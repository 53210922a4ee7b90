using System.Text.Json;
using ArchTalk.Data.Entities;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace ArchTalk.Data.Configurations;

internal sealed class TeacherConfiguration : IEntityTypeConfiguration<Teacher>
{
    public void Configure(EntityTypeBuilder<Teacher> builder) => builder.Property(t => t.DisplayName).HasMaxLength(120);
}

internal sealed class UnitConfiguration : IEntityTypeConfiguration<Unit>
{
    public void Configure(EntityTypeBuilder<Unit> builder)
    {
        builder.Property(u => u.Title).HasMaxLength(200);
        builder.HasIndex(u => new { u.TeacherId, u.Order });
        builder.HasOne<Teacher>().WithMany().HasForeignKey(u => u.TeacherId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class LessonConfiguration : IEntityTypeConfiguration<Lesson>
{
    public void Configure(EntityTypeBuilder<Lesson> builder)
    {
        builder.Property(l => l.Title).HasMaxLength(200);
        builder.Property(l => l.WatchToken).HasMaxLength(40);
        builder.HasIndex(l => l.WatchToken).IsUnique();
        builder.HasIndex(l => new { l.TeacherId, l.UnitId, l.Order });
        builder.HasOne(l => l.Teacher).WithMany().HasForeignKey(l => l.TeacherId).OnDelete(DeleteBehavior.Cascade);
        builder.HasOne(l => l.Unit).WithMany().HasForeignKey(l => l.UnitId).OnDelete(DeleteBehavior.SetNull);
        builder.HasMany(l => l.Boards).WithOne().HasForeignKey(b => b.LessonId).OnDelete(DeleteBehavior.Cascade);
        builder.HasMany(l => l.Takes).WithOne().HasForeignKey(t => t.LessonId).OnDelete(DeleteBehavior.Cascade);
        builder.HasMany(l => l.Publications).WithOne().HasForeignKey(p => p.LessonId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class BoardConfiguration : IEntityTypeConfiguration<BoardRow>
{
    public void Configure(EntityTypeBuilder<BoardRow> builder)
    {
        builder.Property(b => b.Title).HasMaxLength(200);
        builder.Property(b => b.Source).HasMaxLength(260);
        builder.HasIndex(b => new { b.LessonId, b.Order });
        builder.Property(b => b.Notes).HasMaxLength(20_000);
        builder.Property(b => b.AlternativeText).HasMaxLength(2_000);
        builder.Property(b => b.Original).HasMaxLength(60);
        AsJsonList(builder.Property(b => b.Pictures));
        AsJsonList(builder.Property(b => b.Links)).HasDefaultValue(new List<BoardLink>());
        AsJson(builder.Property(b => b.Scan));
        AsJson(builder.Property(b => b.Clip));
        builder.Ignore(b => b.InPixels);
    }

    private static PropertyBuilder<List<T>> AsJsonList<T>(PropertyBuilder<List<T>> property) => property.HasConversion(
        p => JsonSerializer.Serialize(p, JsonSerializerOptions.Web),
        p => JsonSerializer.Deserialize<List<T>>(p, JsonSerializerOptions.Web)!,
        new ValueComparer<List<T>>((a, b) => a!.SequenceEqual(b!), p => p.Count, p => p.ToList()));

    private static void AsJson<T>(PropertyBuilder<T?> property)
        where T : class => property.HasConversion(
        p => JsonSerializer.Serialize(p, JsonSerializerOptions.Web),
        p => JsonSerializer.Deserialize<T>(p, JsonSerializerOptions.Web));
}

internal sealed class TakeConfiguration : IEntityTypeConfiguration<TakeRow>
{
    public void Configure(EntityTypeBuilder<TakeRow> builder) => builder.HasIndex(t => new { t.LessonId, t.Order });
}

internal sealed class PublicationConfiguration : IEntityTypeConfiguration<Publication>
{
    public void Configure(EntityTypeBuilder<Publication> builder)
    {
        builder.HasIndex(p => new { p.LessonId, p.Number }).IsUnique();
        builder.HasIndex(p => p.JobId).IsUnique();
    }
}

internal sealed class AttachmentConfiguration : IEntityTypeConfiguration<Attachment>
{
    public void Configure(EntityTypeBuilder<Attachment> builder)
    {
        builder.Property(a => a.FileName).HasMaxLength(260);
        builder.HasOne<Lesson>().WithMany().HasForeignKey(a => a.LessonId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class SessionConfiguration : IEntityTypeConfiguration<Session>
{
    public void Configure(EntityTypeBuilder<Session> builder)
    {
        builder.HasKey(s => s.KeyHash);
        builder.Property(s => s.KeyHash).HasMaxLength(64);
        builder.HasOne<Teacher>().WithMany().HasForeignKey(s => s.TeacherId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class SectionStateConfiguration : IEntityTypeConfiguration<SectionState>
{
    public void Configure(EntityTypeBuilder<SectionState> builder)
    {
        builder.HasIndex(s => new { s.LessonId, s.BoardId, s.Kind, s.Number }).IsUnique();

        // Whatever goes wrong, a list never has two current states, and one that is current no more isn't made to be so again.
        builder.HasIndex(s => new { s.LessonId, s.BoardId, s.Kind }).IsUnique().HasFilter("\"IsCurrent\"");
        builder.Property(s => s.IsCurrent).IsConcurrencyToken();
        builder.HasOne<Lesson>().WithMany().HasForeignKey(s => s.LessonId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class JobConfiguration : IEntityTypeConfiguration<Job>
{
    public void Configure(EntityTypeBuilder<Job> builder)
    {
        builder.HasIndex(j => new { j.State, j.CreatedAt });
        builder.HasIndex(j => j.LessonId);
        builder.HasOne<Lesson>().WithMany().HasForeignKey(j => j.LessonId).OnDelete(DeleteBehavior.Cascade);
    }
}
