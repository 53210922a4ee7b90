using ArchTalk.Web.Timelines;

namespace ArchTalk.Web.Tests;

public class ComputedCacheTests
{
    [Fact]
    public async Task What_many_ask_for_at_once_is_worked_out_once()
    {
        using var cache = new ComputedCache(1000);
        var count = 0;
        var gate = new TaskCompletionSource();
        var asked = Enumerable.Range(0, 20).Select(_ => cache.GetAsync("key", async () =>
        {
            Interlocked.Increment(ref count);
            await gate.Task;
            return ("value", 10);
        }, CancellationToken.None)).ToArray();
        gate.SetResult();
        (await Task.WhenAll(asked)).ShouldAllBe(v => v == "value");
        count.ShouldBe(1);
    }

    [Fact]
    public async Task One_who_leaves_stops_it_for_nobody_else_and_what_fails_is_tried_again()
    {
        using var cache = new ComputedCache(1000);
        using var leaving = new CancellationTokenSource();
        var gate = new TaskCompletionSource();
        var first = cache.GetAsync("key", async () =>
        {
            await gate.Task;
            return ("value", 10);
        }, leaving.Token);
        var second = cache.GetAsync("key", () => Task.FromResult(("another", 10L)), CancellationToken.None);
        await leaving.CancelAsync();
        await Should.ThrowAsync<OperationCanceledException>(first);
        gate.SetResult();
        (await second).ShouldBe("value");

        await Should.ThrowAsync<InvalidOperationException>(
            cache.GetAsync<string>("bad", () => throw new InvalidOperationException(), CancellationToken.None));
        (await cache.GetAsync("bad", () => Task.FromResult(("good", 10L)), CancellationToken.None)).ShouldBe("good");
    }

    [Fact]
    public async Task It_keeps_no_more_bytes_than_it_may()
    {
        using var cache = new ComputedCache(100);
        var count = 0;
        Task<string> Get(string key, long bytes) => cache.GetAsync(key, () => Task.FromResult(($"{key} {++count}", bytes)), CancellationToken.None);
        (await Get("small", 60)).ShouldBe("small 1");
        (await Get("small", 60)).ShouldBe("small 1", "kept");
        (await Get("large", 101)).ShouldBe("large 2");
        (await Get("large", 101)).ShouldBe("large 3", "too large to be kept");
    }
}
