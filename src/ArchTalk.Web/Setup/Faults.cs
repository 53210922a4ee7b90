using System.Net;
using ArchTalk.Reader.Contract;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Setup;

/// <summary>What went wrong, as an answer: a status and words for a person. Paths and the raw words of programs go to the log only.</summary>
public sealed record Fault(int Status, string Message)
{
    private const int NoSpace = 28;
    private const int ReadOnly = 30;
    private const string Kept = "What was saved before is kept.";

    /// <summary>The fault that an exception stands for.</summary>
    public static Fault Of(Exception exception) => exception switch
    {
        Refusal refusal => new(refusal.Status, refusal.Message),
        MediaException => new(StatusCodes.Status422UnprocessableEntity, exception.Message),
        BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => Of(StatusCodes.Status413PayloadTooLarge),
        BadHttpRequestException { StatusCode: StatusCodes.Status408RequestTimeout } => Of(StatusCodes.Status408RequestTimeout),
        BadHttpRequestException => Of(StatusCodes.Status400BadRequest),
        OperationCanceledException => Of(StatusCodes.Status499ClientClosedRequest),
        SqliteException { SqliteErrorCode: 5 or 6 } => new(
            StatusCodes.Status503ServiceUnavailable,
            $"The server's database is busy. {Kept} Try again in a moment."),
        SqliteException { SqliteErrorCode: 13 } => Full,
        SqliteException { SqliteErrorCode: 8 or 14 } or UnauthorizedAccessException => Unwritable,
        IOException when (exception.HResult & 0xFFFF) == NoSpace => Full,
        IOException when (exception.HResult & 0xFFFF) == ReadOnly => Unwritable,
        DbUpdateException { InnerException: { } inner } => Of(inner),
        _ => Of(StatusCodes.Status500InternalServerError),
    };

    /// <summary>The fault that a status without words stands for.</summary>
    public static Fault Of(int status) => new(status, status switch
    {
        StatusCodes.Status400BadRequest => "What was sent could not be read, so nothing was changed. Reload the page and try again.",
        StatusCodes.Status401Unauthorized => "You are signed out. Sign in again; what you see here is kept as long as this page is open.",
        StatusCodes.Status403Forbidden => "This belongs to somebody else.",
        StatusCodes.Status404NotFound => "It is not there any more. Reload the page to see what is.",
        StatusCodes.Status405MethodNotAllowed => "This can't be done here. Reload the page and try again.",
        StatusCodes.Status408RequestTimeout => "It was sent too slowly, and nothing was changed. Try again on a better line.",
        StatusCodes.Status413PayloadTooLarge => "It is larger than the server takes in at once, so nothing was changed. Divide it.",
        StatusCodes.Status415UnsupportedMediaType => "What was sent is of a kind that isn't read here. Reload the page and try again.",
        StatusCodes.Status429TooManyRequests => "There were too many requests from here. Wait a minute and try again.",
        >= 500 => $"The server could not do that. {Kept} Try again; if it happens again, tell whoever runs the server.",
        _ => "That did not work, and nothing was changed. Reload the page and try again.",
    });

    private static Fault Full =>
        new(StatusCodes.Status507InsufficientStorage, $"The server's disk is full, so this could not be saved. {Kept} Tell whoever runs the server.");

    private static Fault Unwritable => new(
        StatusCodes.Status507InsufficientStorage,
        $"The server may not write into its data folder, so this could not be saved. {Kept} Tell whoever runs the server.");
}

/// <summary>Answers scripts with a message, whatever goes wrong; people get the error page.</summary>
public sealed partial class Faults(ILogger<Faults> log) : IExceptionHandler
{
    /// <summary>Whether a script asks, which wants JSON.</summary>
    public static bool IsForScripts(HttpContext context) => IsForScripts(context.Request.Path);

    private static bool IsForScripts(PathString path) => path.StartsWithSegments("/api", StringComparison.OrdinalIgnoreCase);

    public async ValueTask<bool> TryHandleAsync(HttpContext context, Exception exception, CancellationToken cancel)
    {
        // The request's own path is that of the error page by now.
        PathString path = context.Features.Get<IExceptionHandlerPathFeature>()?.Path ?? context.Request.Path;
        var fault = Fault.Of(exception);
        if (fault.Status >= (int)HttpStatusCode.InternalServerError)
        {
            LogFault(log, context.Request.Method, path, exception);
        }

        context.Response.StatusCode = fault.Status;
        if (!IsForScripts(path))
        {
            return false;
        }

        await context.Response.WriteAsJsonAsync(new { message = fault.Message }, cancel);
        return true;
    }

    /// <summary>Gives an answer to scripts that has a status and nothing else.</summary>
    public static Task WriteAsync(StatusCodeContext context) =>
        context.HttpContext.Response
            .WriteAsJsonAsync(new { message = Fault.Of(context.HttpContext.Response.StatusCode).Message }, context.HttpContext.RequestAborted);

    [LoggerMessage(LogLevel.Error, "{Method} {Path} failed.")]
    private static partial void LogFault(ILogger log, string method, string path, Exception e);
}
