using ArchTalk.Data;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Setup;

var builder = WebApplication.CreateBuilder(args);
builder.AddArchTalk();
var app = builder.Build();
await using (var scope = app.Services.CreateAsyncScope())
{
    await DatabaseSetup.MigrateAsync(scope.ServiceProvider.GetRequiredService<ArchTalkDb>());
    await scope.ServiceProvider.GetRequiredService<RecordingService>().FindLostAsync(CancellationToken.None);
}

app.UseArchTalk();
await app.RunAsync();
