using System.Globalization;
using System.Numerics;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Boards.Figures;

/// <summary>One column of a place-value chart.</summary>
/// <param name="Power">The power of ten it stands for; negative after the decimal sign.</param>
/// <param name="Heading">That power as the locale writes it.</param>
/// <param name="Digit">The number's digit there, or empty where it has none.</param>
/// <param name="Group">Counts the digit groups of the locale from the units upwards; -1 after the decimal sign.</param>
public sealed record PlaceColumn(int Power, string Heading, string Digit, int Group);

/// <summary>A place-value chart in the digit groups of a locale (Unicode CLDR through .NET's culture data).</summary>
public sealed record PlaceValueChart : Figure
{
    private const int MostPlaces = 15;

    /// <summary>Digits with an optional decimal sign, as typed in the language: "305 020.7" and "305,020.7" are read alike in English.</summary>
    public string Number { get; init; } = "305020";

    /// <summary>At least this many places before the decimal sign.</summary>
    public int Places { get; init; }

    public bool ShowsDigits { get; init; } = true;

    public string Locale { get; init; } = "en";

    public override string? Fault()
    {
        var (whole, part) = Digits();
        var sign = WrittenNumber.DecimalSign(LanguageTag.Culture(Locale)) == "," ? "a comma" : "a point";
        return whole.Length == 0 || !(whole + part).All(char.IsAsciiDigit)
            ? $"The number of a place-value chart is written in digits, with {sign} before its decimals."
            : whole.Length + part.Length > MostPlaces || Places > MostPlaces ? $"A place-value chart has at most {MostPlaces} places."
            : null;
    }

    /// <summary>The columns from the highest place to the lowest.</summary>
    public IReadOnlyList<PlaceColumn> Columns()
    {
        var culture = LanguageTag.Culture(Locale);
        var (whole, part) = Digits();
        var columns = new List<PlaceColumn>();
        for (var power = Math.Max(whole.Length, Places) - 1; power >= 0; power--)
        {
            var digit = power < whole.Length ? WrittenNumber.Native(whole[whole.Length - 1 - power].ToString(), culture) : "";
            columns.Add(new PlaceColumn(
                power,
                WrittenNumber.Write((decimal)BigInteger.Pow(10, power), culture),
                ShowsDigits ? digit : "",
                GroupOf(power, culture)));
        }

        for (var i = 0; i < part.Length; i++)
        {
            var heading = WrittenNumber.Write(Math.Pow(10, -(i + 1)), culture);
            columns.Add(new PlaceColumn(-(i + 1), heading, ShowsDigits ? WrittenNumber.Native(part[i].ToString(), culture) : "", -1));
        }

        return columns;
    }

    public override Drawing Draw(double width, double height)
    {
        var columns = Columns();
        var column = width / columns.Count;
        var (head, body) = (height * 0.4, height * 0.6);
        var longest = columns.Max(c => c.Heading.Length);
        var headLetters = Math.Min(head * 0.6, column * 1.6 / longest);
        var letters = Math.Min(body * 0.75, column * 0.9);
        var shapes = new List<Shape>();
        for (var i = 0; i < columns.Count; i++)
        {
            var x = i * column;
            shapes.Add(PathShape.Rectangle(x, 0, column, head, columns[i].Group % 2 == 0 ? Palette.Stone : Palette.PaleStone, Palette.Edge, 2));
            shapes.Add(PathShape.Rectangle(x, head, column, body, Palette.Paper, Palette.Edge, 2));
            shapes.Add(
                new TextShape(columns[i].Heading, x + (column / 2), (head / 2) + (0.34 * headLetters), headLetters, Palette.Ink, TextShape.Middle));
            shapes.Add(new TextShape(
                columns[i].Digit,
                x + (column / 2),
                head + (body / 2) + (0.34 * letters),
                letters,
                Palette.Ink,
                TextShape.Middle,
                IsBold: true));
            if (i > 0 && columns[i].Group != columns[i - 1].Group)
            {
                shapes.Add(new PathShape(Outline.Line(x, 0, x, height), null, Palette.Ink, columns[i].Group < 0 ? 10 : 5));
            }
        }

        return new Drawing(width, height, shapes);
    }

    public override string Describe() => $"A place-value chart of {Columns().Count} places{(ShowsDigits ? $" showing {Number}" : "")}.";

    // The last size of a culture's group sizes repeats; 0 means that the rest is one group.
    private static int GroupOf(int power, CultureInfo culture)
    {
        var sizes = culture.NumberFormat.NumberGroupSizes;
        var (group, end) = (0, 0);
        while (true)
        {
            var size = sizes.Length == 0 ? 0 : sizes[Math.Min(group, sizes.Length - 1)];
            end += size;
            if (size == 0 || power < end)
            {
                return group;
            }

            group++;
        }
    }

    private (string Whole, string Part) Digits()
    {
        var plain = WrittenNumber.Plain(Number, LanguageTag.Culture(Locale)) ?? "";
        var point = plain.IndexOf('.', StringComparison.Ordinal);
        return point < 0 ? (plain, "") : (plain[..point], plain[(point + 1)..]);
    }
}
