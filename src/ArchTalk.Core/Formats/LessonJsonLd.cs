using System.Globalization;
using System.Text.Json.Nodes;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Formats;

/// <summary>What a published lesson says about itself, as schema.org JSON-LD: a LearningResource with its chapters as Clips.</summary>
public static class LessonJsonLd
{
    /// <param name="title">The lesson's title.</param>
    /// <param name="teacher">The teacher's name.</param>
    /// <param name="address">The full address students open.</param>
    /// <param name="published">When it was published.</param>
    /// <param name="length">The lesson's length.</param>
    /// <param name="chapters">Placed on the timeline.</param>
    /// <param name="terms">The vocabulary.</param>
    public static JsonObject Write(
        string title, string teacher, string address, DateTimeOffset published, Duration length,
        IReadOnlyList<TimedChapter> chapters, IReadOnlyList<Term> terms)
    {
        var parts = new JsonArray();
        for (var i = 0; i < chapters.Count; i++)
        {
            var end = i + 1 < chapters.Count ? chapters[i + 1].At : LessonTime.Zero + length;
            parts.Add(new JsonObject
            {
                ["@type"] = "Clip",
                ["name"] = chapters[i].Title,
                ["startOffset"] = chapters[i].At.WholeMilliseconds / 1000.0,
                ["endOffset"] = end.WholeMilliseconds / 1000.0,
                ["url"] = string.Create(CultureInfo.InvariantCulture, $"{address}#t={chapters[i].At.WholeMilliseconds / 1000.0}"),
            });
        }

        var defined = new JsonArray();
        foreach (var term in terms)
        {
            defined.Add(new JsonObject { ["@type"] = "DefinedTerm", ["name"] = term.Word, ["description"] = term.Meaning });
        }

        return new JsonObject
        {
            ["@context"] = "https://schema.org",
            ["@type"] = new JsonArray("LearningResource", "AudioObject"),
            ["name"] = title,
            ["author"] = new JsonObject { ["@type"] = "Person", ["name"] = teacher },
            ["url"] = address,
            ["datePublished"] = published.ToString("O", CultureInfo.InvariantCulture),
            ["duration"] = string.Create(CultureInfo.InvariantCulture, $"PT{Math.Round(length.Seconds)}S"),
            ["learningResourceType"] = "narrated lesson",
            ["hasPart"] = parts,
            ["teaches"] = defined,
        };
    }
}
