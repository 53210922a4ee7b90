using ArchTalk.Data;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Setup;

var builder = WebApplication.CreateBuilder(args);
builder.AddArchTalk();
var app = builder.Build();
await using (var scope = app.Services.CreateAsyncScope())
{
    await DatabaseSetup.MigrateAsync(scope.ServiceProvider.GetRequiredService<ArchTalkDb>());
    await scope.ServiceProvider.GetRequiredService<RecordingService>().FindLostAsync(CancellationToken.None);
    await scope.ServiceProvider.GetRequiredService<AttachmentService>().AdoptAsync(CancellationToken.None);
    await scope.ServiceProvider.GetRequiredService<Leftovers>().SweepAsync(CancellationToken.None);
    await SafetyNotice.WriteAsync(scope.ServiceProvider);
}

app.UseArchTalk();
await app.RunAsync();
