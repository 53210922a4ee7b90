using ArchTalk.Core.Lessons;
using ArchTalk.Core.Publishing;
using ArchTalk.Data.Files;
using ArchTalk.Web.Publishing;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.OutputCaching;

namespace ArchTalk.Web.Pages;

/// <summary>What students see under a lesson's link.</summary>
[OutputCache(PolicyName = nameof(WatchPagePolicy))]
public sealed class WatchModel(PublishingService publishing, LessonFiles files) : PageModel
{
    public static readonly IReadOnlyList<string> Speeds = ["0.5", "0.75", "1", "1.25", "1.5", "1.75", "2"];

    /// <summary>The publication; null when the link is closed.</summary>
    public PublishedLesson? Lesson { get; private set; }

    /// <summary>Where the publication's files are.</summary>
    public string Files { get; private set; } = "";

    public bool IsFindable { get; private set; }

    /// <summary>Where the newest version is, when an older one was asked for that is closed.</summary>
    public string? Newer { get; private set; }

    public string JsonLd { get; private set; } = "";

    public object PageData => new
    {
        token = RouteData.Values["token"],
        files = Files,
        lengthMs = Lesson?.LengthMs,
        clips = Lesson?.Boards.Where(
        b => b is { Id: not null, Clip: not null }).Select(b =>
        new { b.Id, b.Title, b.Clip!.HasPicture, b.Clip.StartMs, b.Clip.EndMs, b.Clip.Files })
    };

    /// <summary>The address of a file to download.</summary>
    public string FileOf(Reference reference) =>
        Guid.TryParseExact(reference.Stored, "N", out var id) ? $"{Files}/{PublishedLesson.FileOf(id)}" : "#";

    public async Task<IActionResult> OnGetAsync(string token, int? number, CancellationToken cancel)
    {
        if (await publishing.OpenAsync(token, number, cancel) is not { } opened)
        {
            return NotFound();
        }

        // The page points at the newest version, so it is asked for each time.
        Response.Headers.CacheControl = "no-cache";
        Lesson = opened.Content;
        IsFindable = opened.IsFindable;
        Newer = opened.IsReplaced ? $"/w/{token}" : null;
        Files = $"/w/{token}/{opened.Number}";
        if (Lesson is null)
        {
            Response.StatusCode = StatusCodes.Status410Gone;
        }
        else
        {
            // The writer escapes < and >, so the text can't end the script element it stands in.
            JsonLd = await System.IO.File.ReadAllTextAsync(Path.Combine(files.Publication(opened.Lesson, opened.Number), "lesson.jsonld"), cancel);
        }

        return Page();
    }
}
