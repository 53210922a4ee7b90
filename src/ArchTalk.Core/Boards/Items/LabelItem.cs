namespace ArchTalk.Core.Boards.Items;

/// <summary>A name with a line to what it names.</summary>
public sealed record LabelItem : Item
{
    public string Text { get; init; } = "";

    /// <summary>Where its line ends, in board units.</summary>
    public double TipX { get; init; }

    public double TipY { get; init; }

    /// <summary>The vocabulary term it shows the place of.</summary>
    public Guid? TermId { get; init; }

    public string Language { get; init; } = "";

    /// <summary>On an unlabelled copy: the number shown instead of the text; 0 shows the text.</summary>
    public int Number { get; init; }
}
