using System.Text.Json;
using ArchTalk.Core.Editing;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>Where moments are, by cases that hold the player as well (Client/tests/moments.test.ts).</summary>
public class PlacesCasesTests
{
    private sealed record Place(Guid Take, long Sample, long[] Snap, long[] Drop);

    private sealed record Heard(long At, Guid Take, long Sample);

    // A second take, recorded for a place of the first.
    private sealed record Again(Guid Take, long Length, long From, long Until);

    private sealed record Case(
        string Name, EditList Edits, long[]? Retake, Again? Again, PlacementEntry[] Placements, Place[] Places, Heard[] Moments);

    public static IEnumerable<TheoryDataRow<string>> Names => Read().Select(c => new TheoryDataRow<string>(c.Name));

    [Theory]
    [MemberData(nameof(Names))]
    public void Places_and_moments_are_as_players_find_them(string name)
    {
        var found = Read().Single(c => c.Name == name);
        var id = new TakeId(found.Placements[0].Take);
        TakeAction[] actions = found.Retake is [var at, var to] ? [new Retaken(new TakeTime(at), new TakeTime(to))] : [];
        var logs = new List<TakeLog> { new(id, new Duration(480_000), actions) };
        if (found.Again is { } again)
        {
            var place = new TakePlace(new(id, new(again.From)), new(id, new(again.Until)));
            logs.Add(new(new TakeId(again.Take), new Duration(again.Length), [], place: place));
        }

        var arrangement = Arrangement.Resolve(logs, found.Edits);
        var file = TimelineFiles.Timeline(TimelineCompiler.Compile([], arrangement), [], []);
        JsonSerializer.Serialize(file.Placements).ShouldBe(JsonSerializer.Serialize(found.Placements), "what players are sent");
        foreach (var place in found.Places)
        {
            long[] Places(WhenCut whenCut) =>
                [.. arrangement.Places(new Moment(new TakeId(place.Take), new TakeTime(place.Sample)), whenCut).Select(p => p.Samples)];
            Places(WhenCut.Snap).ShouldBe(place.Snap, $"{place.Sample} snapped");
            Places(WhenCut.Drop).ShouldBe(place.Drop, $"{place.Sample} dropped");
        }

        foreach (var heard in found.Moments)
        {
            arrangement.MomentAt(new LessonTime(heard.At)).ShouldBe(new Moment(new TakeId(heard.Take), new TakeTime(heard.Sample)), $"at {heard.At}");
        }
    }

    private static Case[] Read() => JsonSerializer.Deserialize<Case[]>(
        File.ReadAllBytes(Path.Combine(Repository.Root, "tests", "Shared", "places.json")), JsonSerializerOptions.Web)!;
}
