using System.Collections.Concurrent;

namespace ArchTalk.Web.Setup;

/// <summary>
/// Slows down guessing of passwords. Attempts are counted before the password is looked at, so that many at once count as many; what
/// succeeds is not counted. A stranger's guesses shut out the stranger's address, and an account only when guesses come from many
/// addresses; whoever is signed in stays so.
/// </summary>
public sealed class SignInLimits(TimeProvider clock)
{
    // Common practice, no source: a teacher mistypes a few times, and a whole school may share an address.
    private const int ForAccountAtAddress = 10;
    private const int ForAddress = 60;
    private const int ForAccount = 200;
    /// <summary>What is said to whoever has tried too often.</summary>
    public const string TooMany = "Too many attempts. Wait five minutes and try again.";

    private const int LongestName = 200;
    private const int MostKept = 20_000;
    private static readonly TimeSpan Window = TimeSpan.FromMinutes(5);
    private readonly ConcurrentDictionary<string, (int Count, DateTimeOffset Since)> attempts = new(StringComparer.Ordinal);

    /// <summary>Counts an attempt; false when there were too many already.</summary>
    public bool Begin(string account, HttpContext from) => Counters(account, from).All(c => Count(c.Key, 1) <= c.Most);

    /// <summary>Takes back the count of an attempt that succeeded.</summary>
    public void Succeeded(string account, HttpContext from)
    {
        foreach (var (key, _) in Counters(account, from))
        {
            Count(key, -1);
        }
    }

    private static (string Key, int Most)[] Counters(string account, HttpContext from)
    {
        var address = from.Connection.RemoteIpAddress?.ToString() ?? "";

        // The address first: whoever is over its limit costs nothing more.
        var name = account.Trim().ToUpperInvariant();
        name = name[..Math.Min(name.Length, LongestName)];
        return [($"address {address}", ForAddress), ($"both {address} {name}", ForAccountAtAddress), ($"account {name}", ForAccount)];
    }

    private int Count(string key, int by)
    {
        var now = clock.GetUtcNow();
        if (attempts.Count > MostKept)
        {
            foreach (var (old, _) in attempts.Where(a => now - a.Value.Since > Window).ToArray())
            {
                attempts.TryRemove(old, out _);
            }

            if (attempts.Count > MostKept)
            {
                attempts.Clear();
            }
        }

        return attempts.AddOrUpdate(
            key,
            _ => (Math.Max(0, by), now),
            (_, a) => now - a.Since > Window ? (Math.Max(0, by), now) : (Math.Max(0, a.Count + by), a.Since)).Count;
    }
}
