namespace ArchTalk.Core.Boards.Items;

/// <summary>A place on a board, in board units.</summary>
public readonly record struct CoveredBox(double X, double Y, double Width, double Height);

/// <summary>
/// What covers hide. Nothing of it is in what students load before a cover is lifted: not the words, not the drawings, not the picture.
/// </summary>
public static class Covers
{
    /// <summary>Where the covers of a board lie.</summary>
    public static IReadOnlyList<CoveredBox> Boxes(IEnumerable<Item> items) =>
        [.. items.OfType<CoverItem>().Select(c => new CoveredBox(c.X, c.Y, c.Width, c.Height))];

    /// <summary>The items of which at least a part lies under a cover; items over it (later in the list) are seen.</summary>
    public static IReadOnlySet<Guid> Hidden(IReadOnlyList<Item> items)
    {
        var hidden = new HashSet<Guid>();
        for (var i = 0; i < items.Count; i++)
        {
            if (items[i] is not CoverItem && items.Skip(i + 1).OfType<CoverItem>().Any(c => Meet(items[i], c)))
            {
                hidden.Add(items[i].Id);
            }
        }

        return hidden;
    }

    private static bool Meet(Item item, CoverItem cover) =>
        item.X < cover.X + cover.Width && cover.X < item.X + item.Width && item.Y < cover.Y + cover.Height && cover.Y < item.Y + item.Height;
}
