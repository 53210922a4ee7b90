namespace ArchTalk.Web.Tests;

/// <summary>A clock that a test moves on. Timers ring when it passes them.</summary>
internal sealed class ManualClock : TimeProvider
{
    private readonly List<Timer> timers = [];
    private DateTimeOffset now = DateTimeOffset.UtcNow;

    public override DateTimeOffset GetUtcNow() => now;

    public void Advance(TimeSpan by)
    {
        now += by;
        foreach (var timer in timers.ToArray())
        {
            timer.RingUntil(now);
        }
    }

    public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period)
    {
        var timer = new Timer(this, () => callback(state));
        timer.Change(dueTime, period);
        timers.Add(timer);
        return timer;
    }

    private sealed class Timer(ManualClock clock, Action ring) : ITimer
    {
        private DateTimeOffset? due;
        private TimeSpan every;

        public bool Change(TimeSpan dueTime, TimeSpan period)
        {
            (due, every) = (dueTime == Timeout.InfiniteTimeSpan ? null : clock.now + dueTime, period);
            return true;
        }

        public void RingUntil(DateTimeOffset time)
        {
            if (due <= time)
            {
                due = every > TimeSpan.Zero ? time + every : null;
                ring();
            }
        }

        public void Dispose()
        {
            due = null;
            clock.timers.Remove(this);
        }

        public ValueTask DisposeAsync()
        {
            Dispose();
            return ValueTask.CompletedTask;
        }
    }
}
