using System.Text;
using ArchTalk.Data.Files;
using ArchTalk.Reader.Contract;
using ArchTalk.Web.Lessons;
using Microsoft.AspNetCore.Mvc;

namespace ArchTalk.Web.Endpoints;

/// <summary>What is done with the vocabulary as a whole; single terms are saved as the list they stand in.</summary>
public static class VocabularyEndpoints
{
    public sealed record LinesBody(string Lines, int Version);

    public sealed record VersionBody(int Version);

    public static void MapVocabularyEndpoints(this IEndpointRouteBuilder routes)
    {
        var api = routes.MapLessonApi().MapGroup("/terms");
        api.MapPost("/add", (Guid lesson, LinesBody body, VocabularyService words, CancellationToken cancel) => words.AddAsync(
            lesson,
            body.Lines,
            body.Version,
            cancel));
        api.MapPost(
            "/sort",
            (Guid lesson, VersionBody body, VocabularyService words, CancellationToken cancel) => words.SortAsync(lesson, body.Version, cancel));
        api.MapPost("/look", LookAsync);
        api.MapPost("/import", ImportAsync);
        api.MapGet("/earlier", (Guid lesson, VocabularyService words, CancellationToken cancel) => words.EarlierAsync(lesson, cancel));
        api.MapGet("/places", (Guid lesson, VocabularyService words, CancellationToken cancel) => words.PlacesAsync(lesson, cancel));
        routes.MapLessonGroup("/lessons/{lesson:guid}").MapGet("/vocabulary.{format}", ExportAsync);
    }

    private static Task<IResult> ImportAsync(
        Guid lesson, int version, [FromQuery] string[]? column, bool? hasHeader, HttpRequest request, LessonFiles files, MediaLimits limits,
        VocabularyService words, CancellationToken cancel) =>
        Upload.UseAsync(request, files.Uploads(lesson), limits, async upload => Results.Ok(
            await words.ImportAsync(lesson, upload.Path, version, column is { Length: > 0 } ? column : null, hasHeader ?? false, cancel)), cancel);

    private static Task<IResult> LookAsync(Guid lesson, HttpRequest request, LessonFiles files, MediaLimits limits, CancellationToken cancel) =>
        Upload.UseAsync(request, files.Uploads(lesson), limits, async upload => 
            Results.Ok(new { table = await VocabularyService.LookAsync(upload.Path, cancel) }), cancel);

    private static async Task<IResult> ExportAsync(Guid lesson, string format, VocabularyService words, CancellationToken cancel) => format switch
    {
        "csv" => Results.File(Marked(await words.TableAsync(lesson, ',', cancel)), "text/csv", "vocabulary.csv"),
        "tsv" => Results.File(Marked(await words.TableAsync(lesson, '\t', cancel)), "text/tab-separated-values", "vocabulary.tsv"),
        "tbx" => Results.File(await words.TbxAsync(lesson, cancel), "application/x-tbx", "vocabulary.tbx"),
        _ => Results.NotFound(),
    };

    // A spreadsheet takes a file for UTF-8 when it begins with the mark.
    private static byte[] Marked(string text) => [.. Encoding.UTF8.Preamble, .. Encoding.UTF8.GetBytes(text)];
}
