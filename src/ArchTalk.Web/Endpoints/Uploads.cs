using ArchTalk.Reader.Contract;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Setup;
using Microsoft.AspNetCore.Http.Features;

namespace ArchTalk.Web.Endpoints;

/// <summary>A file that came as the body of a request, its name in a header: no form, so nothing is buffered twice.</summary>
/// <param name="Path">Where it was put.</param>
/// <param name="Name">What the teacher calls it; never used as a path.</param>
public sealed record Upload(string Path, string Name)
{
    public const string NameHeader = "X-File-Name";

    /// <summary>Under what name it is stored in its folder.</summary>
    public string Stored => System.IO.Path.GetFileName(Path);

    /// <summary>Receives a file, does something with it, and leaves nothing of it.</summary>
    /// <exception cref="Refusal">It is larger than the limit.</exception>
    public static async Task<T> UseAsync<T>(
        HttpRequest request, string folder, MediaLimits limits, Func<Upload, Task<T>> work, CancellationToken cancel)
    {
        var upload = await ReceiveAsync(request, folder, limits, cancel);
        try
        {
            return await work(upload);
        }
        finally
        {
            File.Delete(upload.Path);
        }
    }

    /// <exception cref="Refusal">It is larger than the limit; nothing is left of it.</exception>
    public static async Task<Upload> ReceiveAsync(HttpRequest request, string folder, MediaLimits limits, CancellationToken cancel)
    {
        if (request.HttpContext.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } size)
        {
            size.MaxRequestBodySize = limits.FileBytes + 1;
        }

        var name = LessonService.Tidy(System.IO.Path.GetFileName(Uri.UnescapeDataString(request.Headers[NameHeader].FirstOrDefault() ?? "")), "file");
        if (request.ContentLength > limits.FileBytes)
        {
            throw new Refusal($"“{name}” is larger than {limits.FileBytes >> 20} MB. Save it in parts, or with smaller pictures.")
            {
                Status = StatusCodes.Status413PayloadTooLarge
            };
        }

        var path = System.IO.Path.Combine(Directory.CreateDirectory(folder).FullName, Guid.NewGuid().ToString("N"));
        try
        {
            await using var file = File.Create(path);
            await request.Body.CopyToAsync(file, cancel);
        }
        catch
        {
            File.Delete(path);
            throw;
        }

        return new Upload(path, name);
    }
}
