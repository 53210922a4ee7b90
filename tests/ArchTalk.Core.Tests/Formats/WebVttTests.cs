using ArchTalk.Core.Formats;
using ArchTalk.Core.Lessons;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Tests.Formats;

public class WebVttTests
{
    [Fact]
    public void Chapters_last_until_the_next_begins() => WebVtt.Chapters(
        [new(LessonTime.Zero, "Thrust & <weight>", Guid.Empty), new(LessonTime.FromSeconds(3661.5), "Two\nlines --> here", Guid.Empty)],
        Duration.FromSeconds(4000)).ShouldBe(
        """
        WEBVTT

        1
        00:00:00.000 --> 01:01:01.500
        Thrust &amp; &lt;weight&gt;

        2
        01:01:01.500 --> 01:06:40.000
        Two lines --&gt; here

        """.ReplaceLineEndings("\n"));

    [Fact]
    public void A_lesson_says_what_it_is_in_schema_org_terms()
    {
        var json = LessonJsonLd.Write(
            "Arches", "A. Teacher", "https://example.org/w/x", DateTimeOffset.UnixEpoch, Duration.FromSeconds(90),
            [new(LessonTime.Zero, "One", Guid.Empty), new(LessonTime.FromSeconds(30), "Two", Guid.Empty)],
            [new Term(Guid.NewGuid(), "keystone", "", "the top stone", "en")]);

        json["duration"]!.GetValue<string>().ShouldBe("PT90S");
        json["hasPart"]!.AsArray().Select(c => (c!["startOffset"]!.GetValue<double>(), c["endOffset"]!.GetValue<double>()))
            .ShouldBe([(0, 30), (30, 90)]);
        json["teaches"]![0]!["name"]!.GetValue<string>().ShouldBe("keystone");
    }
}
