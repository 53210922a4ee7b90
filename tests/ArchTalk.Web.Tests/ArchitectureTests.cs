using NetArchTest.Rules;

namespace ArchTalk.Web.Tests;

/// <summary>
/// Arrows point one way: Web → Media, Data → Core. That the core has no clock, no chance and no files is held by its
/// BannedSymbols.txt.
/// </summary>
public class ArchitectureTests
{
    private static readonly string[] Outside =
    [
        "Microsoft.EntityFrameworkCore", "Microsoft.AspNetCore", "Microsoft.Extensions", "Microsoft.Data", "SkiaSharp", "UglyToad", "CliWrap",
        "System.IO.File", "System.IO.FileStream", "System.Net", "System.Diagnostics.Process", "ArchTalk.Data", "ArchTalk.Media", "ArchTalk.Web",
    ];

    [Fact]
    public void The_core_knows_nothing_of_files_networks_databases_or_pages() =>
        ShouldHold(Types.InAssembly(typeof(Core.Time.TakeTime).Assembly).ShouldNot().HaveDependencyOnAny(Outside).GetResult());

    [Fact]
    public void Data_knows_neither_media_nor_pages() =>
        ShouldHold(Types.InAssembly(typeof(Data.ArchTalkDb).Assembly).ShouldNot()
            .HaveDependencyOnAny("ArchTalk.Media", "ArchTalk.Web", "SkiaSharp", "CliWrap")
            .GetResult());

    [Fact]
    public void Media_knows_neither_data_nor_pages() =>
        ShouldHold(Types.InAssembly(typeof(Media.Voice).Assembly).ShouldNot()
            .HaveDependencyOnAny("ArchTalk.Data", "ArchTalk.Web", "Microsoft.EntityFrameworkCore")
            .GetResult());

    [Fact]
    public void What_was_uploaded_is_opened_by_the_reader_alone()
    {
        string[] readers = ["UglyToad", "DocumentFormat", "MetadataExtractor", "SkiaSharp", "ArchTalk.Reader.Readers"];
        foreach (var assembly in new[] {
            typeof(Media.Voice).Assembly,
            typeof(Setup.ArchTalkSetup).Assembly,
            typeof(Data.ArchTalkDb).Assembly,
            typeof(Core.Time.TakeTime).Assembly })
        {
            // Writing is measured with the fonts that ship with the application.
            ShouldHold(Types.InAssembly(assembly).That().DoNotHaveNameMatching(nameof(Media.SkiaTextMeasure)).ShouldNot().HaveDependencyOnAny(readers)
                .GetResult());
        }
    }

    [Fact]
    public void Programs_are_started_in_one_place()
    {
        string[] ways = ["Cli.Wrap(", "Process.Start", "ProcessStartInfo", "new Process(", "posix_spawn", "execve"];
        Directory.EnumerateFiles(Path.Combine(Repository.Root, "src"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal) && !f.Contains("/node_modules/", StringComparison.Ordinal))
            .Where(f => File.ReadAllText(f) is var text && ways.Any(w => text.Contains(w, StringComparison.Ordinal)))
            .Select(Path.GetFileName).ShouldBe(["Box.cs"]);
    }

    private static void ShouldHold(NetArchTest.Rules.TestResult result) => (result.FailingTypeNames ?? []).ShouldBeEmpty();
}
