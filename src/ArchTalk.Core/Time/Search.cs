namespace ArchTalk.Core.Time;

/// <summary>Finds a place in what is ordered.</summary>
internal static class Search
{
    /// <summary>How many of the first indexes fulfil a condition that holds up to some index and not beyond.</summary>
    public static int CountTo(int length, Func<int, bool> holds)
    {
        int low = 0, high = length;
        while (low < high)
        {
            var middle = (low + high) / 2;
            (low, high) = holds(middle) ? (middle + 1, high) : (low, middle);
        }

        return low;
    }
}
