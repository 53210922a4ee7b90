using System.Net;
using System.Net.Http.Json;
using System.Text.RegularExpressions;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Web.Jobs;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.DependencyInjection.Extensions;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace ArchTalk.Web.Tests;

/// <summary>The application in this process, on a data folder of its own. Jobs run when a test says so.</summary>
internal sealed class App(params (string Name, string Value)[] settings) : WebApplicationFactory<Program>
{
    public const string Password = "a long password";

    // Each host watches its settings and its pages' files for changes, also for a while after it has ended, and a user may watch 128
    // things through the kernel.
    static App()
    {
        Environment.SetEnvironmentVariable("DOTNET_hostBuilder__reloadConfigOnChange", "false");
        Environment.SetEnvironmentVariable("DOTNET_USE_POLLING_FILE_WATCHER", "1");
    }

    private readonly WrittenLog written = new();

    /// <summary>The lines of the log, warnings and worse.</summary>
    public IReadOnlyCollection<string> Log => written.Lines;

    public string DataFolder { get; } = Directory.CreateTempSubdirectory("archtalk-web-").FullName;

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("ArchTalk:DataFolder", DataFolder);
        builder.UseSetting("ArchTalk:Limits:Pages", "20");
        foreach (var (name, value) in settings)
        {
            builder.UseSetting($"ArchTalk:{name}", value);
        }

        builder.UseEnvironment("Production");
        builder.ConfigureLogging(log => log.ClearProviders().AddProvider(written));
        builder.ConfigureServices(services => services.RemoveAll<IHostedService>());
    }

    /// <summary>Adds a teacher and gives back a browser signed in as them.</summary>
    public async Task<Client> SignInAsync(string email)
    {
        await using (var scope = Services.CreateAsyncScope())
        {
            var teachers = scope.ServiceProvider.GetRequiredService<UserManager<Teacher>>();
            (await teachers.CreateAsync(new Teacher { UserName = email, Email = email, DisplayName = email }, Password)).Succeeded.ShouldBeTrue();
        }

        var client = new Client(CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false }));
        await client.SignInAsync(email, Password);
        return client;
    }

    public async Task<T> WithAsync<T>(Func<IServiceProvider, Task<T>> work)
    {
        await using var scope = Services.CreateAsyncScope();
        return await work(scope.ServiceProvider);
    }

    public Task<T> QueryAsync<T>(Func<ArchTalkDb, Task<T>> query) => WithAsync(s => query(s.GetRequiredService<ArchTalkDb>()));

    public async Task RunJobsAsync()
    {
        while (await Services.GetRequiredService<JobRunner>().RunNextAsync(CancellationToken.None))
        {
        }
    }

    protected override void Dispose(bool disposing)
    {
        base.Dispose(disposing);
        if (disposing && Directory.Exists(DataFolder))
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            Directory.Delete(DataFolder, recursive: true);
        }
    }
}

/// <summary>A browser: keeps cookies and the antiforgery token of the last page.</summary>
internal sealed partial class Client(HttpClient http)
{
    private string token = "";

    public HttpClient Http => http;

    public async Task<string> PageAsync(string path)
    {
        using var answer = await http.GetAsync(path);
        var page = await answer.Content.ReadAsStringAsync();
        token = Token().Match(page) is { Success: true } match ? WebUtility.HtmlDecode(match.Groups["token"].Value) : token;
        return page;
    }

    public async Task SignInAsync(string email, string password)
    {
        await PageAsync("/sign-in");
        using var answer = await FormAsync("/sign-in", ("email", email), ("password", password));
        answer.Headers.Location!.ToString().ShouldBe("/");
        await PageAsync("/");
    }

    public Task<HttpResponseMessage> FormAsync(string path, params (string Name, string Value)[] fields) => http.PostAsync(
        path, new FormUrlEncodedContent(fields.Append(("__RequestVerificationToken", token)).Select(f => KeyValuePair.Create(f.Item1, f.Item2))));

    public async Task<Guid> CreateLessonAsync(string title)
    {
        using var answer = await FormAsync("/?handler=Create", ("title", title));
        return Guid.Parse(answer.Headers.Location!.ToString().Split('/')[2]);
    }

    /// <summary>Sends and reads the JSON that comes back; fails when it is no success.</summary>
    public async Task<System.Text.Json.JsonElement> CallAsync(HttpMethod method, string path, object? body = null)
    {
        using var answer = await SendAsync(method, path, body);
        var text = await answer.Content.ReadAsStringAsync();
        answer.IsSuccessStatusCode.ShouldBeTrue($"{method} {path}: {text}");
        return text.Length == 0 ? default : System.Text.Json.JsonDocument.Parse(text).RootElement;
    }

    /// <summary>Sends what must be refused and gives back the message.</summary>
    public async Task<string> RefusalAsync(HttpMethod method, string path, object? body = null)
    {
        using var answer = await SendAsync(method, path, body);
        var text = await answer.Content.ReadAsStringAsync();
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, text);
        return System.Text.Json.JsonDocument.Parse(text).RootElement.GetProperty("message").GetString()!;
    }

    public async Task<HttpResponseMessage> SendAsync(HttpMethod method, string path, object? body = null, bool withToken = true)
    {
        using var request = new HttpRequestMessage(method, path);
        request.Content = body switch { null => null, HttpContent content => content, _ => JsonContent.Create(body) };
        if (withToken)
        {
            request.Headers.Add("X-Antiforgery", token);
        }

        return await http.SendAsync(request);
    }

    public Task<HttpResponseMessage> UploadAsync(Guid lesson, string name, byte[] bytes) =>
        UploadAsync(HttpMethod.Post, $"/api/lessons/{lesson}/files", name, bytes);

    public async Task<HttpResponseMessage> UploadAsync(HttpMethod method, string path, string name, byte[] bytes)
    {
        using var request = new HttpRequestMessage(method, path) { Content = new ByteArrayContent(bytes) };
        request.Headers.Add("X-Antiforgery", token);
        request.Headers.Add("X-File-Name", Uri.EscapeDataString(name));
        return await http.SendAsync(request);
    }

    [GeneratedRegex(
        """(?:name="antiforgery" content|name="__RequestVerificationToken" type="hidden" value)="(?<token>[^"]+)""",
        RegexOptions.None,
        1000)]
    private static partial Regex Token();
}
