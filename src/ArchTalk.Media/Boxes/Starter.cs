using System.Collections.Concurrent;

namespace ArchTalk.Media.Boxes;

/// <summary>
/// Starts programs from one thread that lives as long as the server. A box ends when the thread that started it ends (prctl(2),
/// PR_SET_PDEATHSIG), which is wanted when the server is killed, and not when its pool of threads shrinks.
/// </summary>
internal static class Starter
{
    private static readonly BlockingCollection<Action> Waiting = [];

    static Starter() => new Thread(Work) { IsBackground = true, Name = "Starts programs" }.Start();

    public static Task<T> StartAsync<T>(Func<T> start)
    {
        var started = new TaskCompletionSource<T>(TaskCreationOptions.RunContinuationsAsynchronously);
        Waiting.Add(() =>
        {
            try
            {
                started.SetResult(start());
            }
            catch (Exception e)
            {
                started.SetException(e);
            }
        });
        return started.Task;
    }

    private static void Work()
    {
        foreach (var start in Waiting.GetConsumingEnumerable())
        {
            start();
        }
    }
}
