using System.Diagnostics;

namespace ArchTalk.Bench;

internal static class Measure
{
    /// <summary>The median time in ms of several runs, after one that doesn't count.</summary>
    public static double MedianMs(int runs, Action work)
    {
        work();
        var times = new double[runs];
        for (var i = 0; i < runs; i++)
        {
            var start = Stopwatch.GetTimestamp();
            work();
            times[i] = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
        }

        return Median(times);
    }

    public static double Median(IEnumerable<double> values)
    {
        var sorted = values.Order().ToArray();
        return sorted[sorted.Length / 2];
    }

    public static void Say(string line) => Console.WriteLine(line);
}
