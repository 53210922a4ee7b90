using ArchTalk.Browser.Tests.Support;
using ArchTalk.Core.Recording;

[assembly: AssemblyFixture(typeof(SharedServer))]

namespace ArchTalk.Browser.Tests.Support;

/// <summary>
/// One server for all tests of a process, each of which begins a lesson of its own: as the one that teachers share, it has other lessons
/// in it, may have been killed, and is not started anew for each.
/// </summary>
public sealed class SharedServer : IAsyncDisposable
{
    private readonly TestFiles files = new();
    private Server? server;

    /// <summary>The server, running; a test that failed may have left it killed.</summary>
    public async Task<Server> StartedAsync()
    {
        server ??= new Server(files.Path("data"));
        if (!server.IsRunning)
        {
            await server.StartAsync();
        }

        return server;
    }

    /// <summary>What the server has on its disk of the one take of a teacher's lesson.</summary>
    public Journal JournalOf(TeacherSession teacher) => Journals.ReadOnly(FolderOf(teacher));

    /// <summary>That take, read.</summary>
    public TakeLog TakeOf(TeacherSession teacher) => Takes.Log(JournalOf(teacher));

    /// <summary>Where the server keeps a teacher's lesson.</summary>
    public string FolderOf(TeacherSession teacher) => Path.Join(server!.DataFolder, teacher.LessonPath);

    public async ValueTask DisposeAsync()
    {
        if (server is not null)
        {
            await server.DisposeAsync();
        }

        files.Dispose();
    }
}
