using ArchTalk.Data.Entities;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Data.Queries;

/// <summary>Which boards are meant when a lesson's boards are asked for.</summary>
public static class BoardQueries
{
    /// <summary>The boards of a lesson as it is taught, in order: without those put aside and those only offered.</summary>
    public static IQueryable<BoardRow> InLesson(this DbSet<BoardRow> boards, Guid lesson) =>
        boards.Where(b => b.LessonId == lesson && b.DeletedAt == null && !b.IsOffered).OrderBy(b => b.Order);
}
