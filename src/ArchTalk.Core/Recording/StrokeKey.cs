using System.Globalization;
using ArchTalk.Core.Time;

namespace ArchTalk.Core.Recording;

/// <summary>A stroke's identity across takes: the take that drew it and its number there.</summary>
public readonly record struct StrokeKey(TakeId Take, int Number)
{
    /// <summary>Reads "12" as a stroke of <paramref name="take"/> and "take:12" as one of another take; null when it is neither.</summary>
    public static StrokeKey? Parse(string text, TakeId take)
    {
        var colon = text.IndexOf(':', StringComparison.Ordinal);
        if (colon >= 0)
        {
            if (!Guid.TryParse(text.AsSpan(0, colon), out var other))
            {
                return null;
            }

            take = new TakeId(other);
        }

        return int.TryParse(text.AsSpan(colon + 1), NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? new StrokeKey(take, number)
            : null;
    }

    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Take}:{Number}");
}
