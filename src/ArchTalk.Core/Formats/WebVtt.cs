using System.Globalization;
using System.Text;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Formats;

/// <summary>WebVTT (W3C): chapters as a file of cues, each lasting until the next begins.</summary>
public static class WebVtt
{
    /// <param name="chapters">In order of time.</param>
    /// <param name="length">The lesson's length, where the last chapter ends.</param>
    public static string Chapters(IReadOnlyList<TimedChapter> chapters, Duration length)
    {
        var text = new StringBuilder("WEBVTT\n");
        for (var i = 0; i < chapters.Count; i++)
        {
            var end = i + 1 < chapters.Count ? chapters[i + 1].At : LessonTime.Zero + length;
            if (end <= chapters[i].At)
            {
                continue;
            }

            text.Append('\n').Append(i + 1).Append('\n')
                .Append(Timestamp(chapters[i].At)).Append(" --> ").Append(Timestamp(end)).Append('\n')
                .Append(CueText(chapters[i].Title)).Append('\n');
        }

        return text.ToString();
    }

    /// <summary>"WebVTT timestamp": hours (two digits or more), minutes, seconds and milliseconds.</summary>
    public static string Timestamp(LessonTime time)
    {
        var milliseconds = time.WholeMilliseconds;
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{milliseconds / 3_600_000:00}:{milliseconds / 60_000 % 60:00}:{milliseconds / 1000 % 60:00}.{milliseconds % 1000:000}");
    }

    // Cue text is markup: & and < must be escaped, and "-->" must not occur. A line break would end the cue if doubled.
    private static string CueText(string text) => text
        .Replace("&", "&amp;", StringComparison.Ordinal)
        .Replace("<", "&lt;", StringComparison.Ordinal)
        .Replace(">", "&gt;", StringComparison.Ordinal)
        .ReplaceLineEndings(" ");
}
