using NetArchTest.Rules;

namespace ArchTalk.Web.Tests;

/// <summary>Arrows point one way: Web → Media, Data → Core. That the core has no clock, no chance and no files is held by its BannedSymbols.txt.</summary>
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
        ShouldHold(Types.InAssembly(typeof(Data.ArchTalkDb).Assembly).ShouldNot().HaveDependencyOnAny("ArchTalk.Media", "ArchTalk.Web", "SkiaSharp", "CliWrap").GetResult());

    [Fact]
    public void Media_knows_neither_data_nor_pages() =>
        ShouldHold(Types.InAssembly(typeof(Media.Voice).Assembly).ShouldNot().HaveDependencyOnAny("ArchTalk.Data", "ArchTalk.Web", "Microsoft.EntityFrameworkCore").GetResult());

    private static void ShouldHold(NetArchTest.Rules.TestResult result) => (result.FailingTypeNames ?? []).ShouldBeEmpty();
}
