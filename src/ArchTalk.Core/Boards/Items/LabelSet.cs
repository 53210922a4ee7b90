using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Boards.Items;

/// <summary>A label with its number.</summary>
public sealed record NumberedLabel(int Number, LabelItem Label);

/// <summary>A place in the pictures that shows a vocabulary term.</summary>
public sealed record TermPlace(Guid TermId, Guid BoardId, Guid LabelId);

/// <summary>The labels of a board taken together.</summary>
public static class LabelSet
{
    private const double NumberSize = 60;

    /// <summary>
    /// Numbers the labels clockwise round the middle of the parts they name, beginning at the left and going up: the way numbers stand
    /// round a diagram (common practice, no source). A single column or row is numbered in reading order.
    /// </summary>
    public static IReadOnlyList<NumberedLabel> Number(IEnumerable<Item> items)
    {
        var labels = items.OfType<LabelItem>().ToArray();
        if (labels.Length == 0)
        {
            return [];
        }

        var (middleX, middleY) = (labels.Average(l => l.TipX), labels.Average(l => l.TipY));
        var isAround = labels.Any(l => Centre(l).X < middleX) && labels.Any(l => Centre(l).X > middleX);
        var ordered = isAround
            ? labels.OrderBy(l => Angle(Centre(l), middleX, middleY))
            : labels.OrderBy(l => l.Y).ThenBy(l => l.X);
        return [.. ordered.Select((l, i) => new NumberedLabel(i + 1, l))];
    }

    /// <summary>The labels in the order of a language's own alphabet.</summary>
    public static IReadOnlyList<NumberedLabel> Alphabetical(IEnumerable<NumberedLabel> labels, string language) =>
        [.. labels.OrderBy(l => l.Label.Text, LanguageTag.Collation(language)).ThenBy(l => l.Number)];

    /// <summary>
    /// The items of an unlabelled copy: numbers stand where the words stood and keep them as what is to be found; labels that name
    /// the same word share nothing, each has its own number. All else is copied.
    /// </summary>
    public static IReadOnlyList<Item> Unlabelled(IReadOnlyList<Item> items, Func<Guid> newId)
    {
        var numbers = Number(items).ToDictionary(n => n.Label.Id, n => n.Number);
        return [.. items.Select(item => item switch
        {
            LabelItem label => label with
            {
                Id = newId(),
                Number = numbers[label.Id],
                X = Math.Round(Centre(label).X - (NumberSize / 2), 1),
                Y = Math.Round(Centre(label).Y - (NumberSize / 2), 1),
            },
            _ => item with { Id = newId() },
        })];
    }

    /// <summary>Where the terms are shown, over all boards in order.</summary>
    public static IReadOnlyList<TermPlace> Places(IEnumerable<(Guid Board, IReadOnlyList<Item> Items)> boards) =>
        [.. from board in boards from label in board.Items.OfType<LabelItem>() where label.TermId is not null
            select new TermPlace(label.TermId!.Value, board.Board, label.Id)];

    private static (double X, double Y) Centre(LabelItem label) => (label.X + (label.Width / 2), label.Y + (label.Height / 2));

    // Clockwise from the direction that points to the left; y runs downwards.
    private static double Angle((double X, double Y) place, double middleX, double middleY)
    {
        var angle = Math.Atan2(place.Y - middleY, place.X - middleX) + Math.PI;
        return angle >= 2 * Math.PI ? 0 : angle;
    }
}
