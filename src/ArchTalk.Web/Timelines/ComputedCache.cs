using System.Collections.Concurrent;
using Microsoft.Extensions.Caching.Memory;

namespace ArchTalk.Web.Timelines;

/// <summary>
/// Keeps what takes long to work out, up to a number of bytes, the least used given up first. What several ask for at once is
/// worked out once. Keys hold everything that the result depends on, so nothing is ever out of date.
/// </summary>
/// <param name="mostBytes">What all results together may take; each says how many it takes.</param>
public sealed class ComputedCache(long mostBytes) : IDisposable
{
    private readonly MemoryCache kept = new(new MemoryCacheOptions { SizeLimit = mostBytes });
    private readonly ConcurrentDictionary<object, Lazy<Task<object>>> running = new();

    /// <summary>The result under a key, worked out now when it isn't kept.</summary>
    /// <param name="compute">Gives the result and the bytes it takes. It goes on when one who asked has left: others may wait for it.</param>
    public async Task<T> GetAsync<T>(object key, Func<Task<(T Value, long Bytes)>> compute, CancellationToken cancel)
        where T : class
    {
        if (kept.TryGetValue(key, out T? known))
        {
            return known!;
        }

        var result = running.GetOrAdd(key, _ => new Lazy<Task<object>>(() => Task.Run(() => RunAsync(key, compute), CancellationToken.None)));
        return (T)await result.Value.WaitAsync(cancel);
    }

    public void Dispose() => kept.Dispose();

    private async Task<object> RunAsync<T>(object key, Func<Task<(T Value, long Bytes)>> compute)
        where T : class
    {
        try
        {
            var (value, bytes) = await compute();

            // What alone is larger than all that may be kept isn't kept.
            kept.Set(key, value, new MemoryCacheEntryOptions { Size = bytes });
            return value;
        }
        finally
        {
            running.TryRemove(key, out _);
        }
    }
}
