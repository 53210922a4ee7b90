using System.Globalization;
using System.Text;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Ink;

namespace ArchTalk.Core.Boards.Items;

/// <summary>Says how wide writing is.</summary>
public interface ITextMeasure
{
    /// <summary>Width in the unit of <paramref name="size"/>, which is the em.</summary>
    double Width(string text, double size, bool isBold);
}

/// <summary>
/// Breaks writing into lines and places its letters. Lines break at spaces and between the characters of scripts written without
/// spaces; a word wider than a line is broken where it must be. Direction follows the first strong letter of a paragraph
/// (Unicode Annex 9, rules P2 and P3), and neighbouring runs of the other direction are laid in their own order.
/// </summary>
public sealed class TextSetter(ITextMeasure measure)
{
    /// <summary>From baseline to baseline, in ems.</summary>
    public const double LineHeight = 1.3;

    private const double Baseline = 0.98;
    private const double RubySize = 0.5;
    private const double RubyRoom = 0.5;
    private const char ZeroWidthJoiner = '‍';

    /// <summary>Sets a text item: as wide as it is, as high as its lines.</summary>
    public Drawing Set(TextItem item)
    {
        var size = TextSizes.Units(item.Size);
        var shapes = new List<Shape>();
        var y = 0.0;
        for (var i = 0; i < item.Paragraphs.Count; i++)
        {
            var runs = item.Paragraphs[i];
            var isRightToLeft = Direction(string.Concat(runs.Select(r => r.Text))) ?? false;
            var indent = item.List == TextSettings.ListNone
                ? 0
                : item.List == TextSettings.ListDots ? 0.8 * size : NumberRoom(item.Paragraphs.Count, size);
            if (item.List != TextSettings.ListNone)
            {
                var mark = item.List == TextSettings.ListDots ? "•" : string.Create(CultureInfo.CurrentCulture, $"{i + 1}.");
                shapes.Add(new TextShape(
                    mark,
                    isRightToLeft ? item.Width : 0,
                    y + (Baseline * size) + (HasRuby(runs) ? RubyRoom * size : 0),
                    size,
                    Color(""),
                    IsRightToLeft: isRightToLeft));
            }

            y = Place(
                shapes,
                Break(runs, item.Width - indent, size),
                item.Align,
                isRightToLeft,
                isRightToLeft ? 0 : indent,
                item.Width - indent,
                y,
                size);
        }

        return new Drawing(item.Width, Math.Max(y, LineHeight * size), shapes);
    }

    /// <summary>Sets one plain paragraph within a box of a width; gives its height back.</summary>
    public double Set(List<Shape> shapes, string text, double x, double y, double width, double size, bool isBold, string align)
    {
        TextRun[] runs = [new(text, isBold)];
        return Place(shapes, Break(runs, width, size), align, Direction(text) ?? false, x, width, y, size) - y;
    }

    /// <summary>The width of plain writing on one line.</summary>
    public double Width(string text, double size, bool isBold = false) => measure.Width(text, size, isBold);

    /// <summary>What was typed on a board, from its upper corner; the rule of Client/ink/typed.ts.</summary>
    public IReadOnlyList<Shape> Typed(Writing letters, double size, string ink)
    {
        var isRightToLeft = Direction(letters.Text) ?? false;
        var shapes = new List<Shape>();
        foreach (var (line, i) in letters.Lines().Select((l, i) => (l, i)))
        {
            var baseline = (Baseline + (i * LineHeight)) * size;
            if (line.Looks.Length == 0)
            {
                shapes.Add(new TextShape(line.Text, 0, baseline, size, Color(ink), IsRightToLeft: isRightToLeft));
                continue;
            }

            TextRun[] runs = [.. FromTheLeft(Joined([.. RunsOf(line, ink)]), isRightToLeft)];
            PlaceRuns(shapes, runs, isRightToLeft ? -WidthOf(runs, size) : 0, baseline, size, isRightToLeft);
        }

        return shapes;
    }

    /// <summary>The colour of a writing ink; blue-black for an unknown name.</summary>
    public static string Color(string ink) => InkStyle.All[InkStyle.IndexOf(InkStyle.Pen, ink, "medium")].Color;

    /// <summary>Whether the first strong letter is written from right to left; null when there is none.</summary>
    internal static bool? Direction(string text)
    {
        foreach (var rune in text.EnumerateRunes())
        {
            if (IsRightToLeft(rune))
            {
                return true;
            }

            if (Rune.IsLetter(rune))
            {
                return false;
            }
        }

        return null;
    }

    // The blocks of Unicode from Hebrew to Arabic Extended-A, their presentation forms, and the right-to-left part of plane 1.
    private static bool IsRightToLeft(Rune rune) =>
        rune.Value is (>= 0x0590 and <= 0x08FF and not (>= 0x0660 and <= 0x0669) and not (>= 0x06F0 and <= 0x06F9))
            or (>= 0xFB1D and <= 0xFDFF) or (>= 0xFE70 and <= 0xFEFC) or (>= 0x10800 and <= 0x10FFF) or (>= 0x1E800 and <= 0x1EFFF);

    // Kana, ideographs and their punctuation can be broken between any two.
    private static bool BreaksAnywhere(char c) => c is >= '぀' and <= '鿿' or >= '豈' and <= '﫿' or >= '＀' and <= '｠';

    private static bool MayNotBegin(char c) => c is '、' or '。' or '，' or '．' or '）' or '」' or '』' or '！' or '？' or '：' or 'ー';

    private static bool IsCursive(char c) => c is >= '؀' and <= 'ࣿ' && char.IsLetter(c);

    private static IEnumerable<TextRun> RunsOf(Writing line, string ink)
    {
        for (int from = 0, to; from < line.Text.Length; from = to)
        {
            var look = line.Looks[from];
            for (to = from + 1; to < line.Text.Length && line.Looks[to] == look; to++)
            {
            }

            var (own, highlight) = Writing.InkOf(look);
            yield return new TextRun(line.Text[from..to], Color: own.Length > 0 ? own : ink, Highlight: highlight);
        }
    }

    private static bool HasRuby(IEnumerable<TextRun> runs) => runs.Any(r => r.Ruby.Length > 0);

    private static double NumberRoom(int count, double size) => (count >= 10 ? 1.7 : 1.2) * size;

    private List<List<TextRun>> Break(IReadOnlyList<TextRun> runs, double width, double size)
    {
        var lines = new List<List<TextRun>> { new() };
        var used = 0.0;
        foreach (var piece in Pieces(runs).SelectMany(p => VisibleWidth(p, size) > width ? Split(p, width, size) : [p]))
        {
            if (used > 0 && used + VisibleWidth(piece, size) > width)
            {
                lines.Add([]);
                used = 0;
            }

            Append(lines[^1], piece);
            used += WidthOf(piece, size);
        }

        return lines;
    }

    // The space after a word may hang over the end of its line.
    private double VisibleWidth(List<TextRun> piece, double size) =>
        WidthOf([.. piece.SkipLast(1), piece[^1] with { Text = piece[^1].Text.TrimEnd(' ') }], size);

    // A piece is what stays on one line: a word with the space after it, or one character of a script without spaces.
    private static List<List<TextRun>> Pieces(IReadOnlyList<TextRun> runs)
    {
        var pieces = new List<List<TextRun>>();
        var open = new List<TextRun>();
        var last = '\0';
        foreach (var run in runs)
        {
            if (run.Ruby.Length > 0)
            {
                if (open.Count > 0 && (last == ' ' || BreaksAnywhere(last)))
                {
                    pieces.Add(open);
                    open = [];
                }

                open.Add(run);
                last = run.Text.Length > 0 ? run.Text[^1] : last;
                continue;
            }

            foreach (var c in run.Text)
            {
                var breaks = (last == ' ' && c != ' ')
                    || (last != '\0' && !MayNotBegin(c) && !char.IsLowSurrogate(c) && c != ' ' && (BreaksAnywhere(c) || BreaksAnywhere(last)));
                if (breaks && open.Count > 0)
                {
                    pieces.Add(open);
                    open = [];
                }

                Append(open, [run with { Text = c.ToString() }]);
                last = c;
            }
        }

        if (open.Count > 0)
        {
            pieces.Add(open);
        }

        return pieces;
    }

    private IEnumerable<List<TextRun>> Split(List<TextRun> piece, double width, double size)
    {
        var part = new List<TextRun>();
        foreach (var letter in piece.SelectMany(r => r.Ruby.Length > 0 ? [r] : TextElements(r.Text).Select(t => r with { Text = t })))
        {
            var longer = new List<TextRun>(part);
            Append(longer, [letter]);
            if (part.Count > 0 && WidthOf(longer, size) > width)
            {
                yield return part;
                longer = [letter];
            }

            part = longer;
        }

        yield return part;
    }

    private static IEnumerable<string> TextElements(string text)
    {
        for (var elements = StringInfo.GetTextElementEnumerator(text); elements.MoveNext();)
        {
            yield return elements.GetTextElement();
        }
    }

    private static void Append(List<TextRun> line, IEnumerable<TextRun> runs)
    {
        foreach (var run in runs)
        {
            if (line.Count > 0 && line[^1] with { Text = "" } == run with { Text = "" } && run.Ruby.Length == 0)
            {
                line[^1] = line[^1] with { Text = line[^1].Text + run.Text };
            }
            else
            {
                line.Add(run);
            }
        }
    }

    private double WidthOf(IEnumerable<TextRun> runs, double size) => runs.Sum(r => WidthOf(r, size));

    private double WidthOf(TextRun run, double size) => Math.Max(
        measure.Width(run.Text, size, run.IsBold), run.Ruby.Length > 0 ? measure.Width(run.Ruby, size * RubySize, isBold: false) : 0);

    private double Place(
        List<Shape> shapes, List<List<TextRun>> lines, string align, bool isRightToLeft, double left, double width, double y, double size)
    {
        foreach (var line in lines)
        {
            if (line.Count > 0)
            {
                line[^1] = line[^1] with { Text = line[^1].Text.TrimEnd(' ') };
            }

            y += HasRuby(line) ? RubyRoom * size : 0;
            var spare = width - WidthOf(line, size);
            var share = align switch { TextSettings.AlignMiddle => 0.5, TextSettings.AlignEnd => 1, _ => 0 };
            var x = left + (spare * (isRightToLeft ? 1 - share : share));
            PlaceRuns(shapes, FromTheLeft(Joined(line), isRightToLeft), x, y + (Baseline * size), size, isRightToLeft);
            y += LineHeight * size;
        }

        return y;
    }

    private void PlaceRuns(List<Shape> shapes, IEnumerable<TextRun> fromTheLeft, double x, double baseline, double size, bool isRightToLeft)
    {
        foreach (var run in fromTheLeft)
        {
            PlaceRun(shapes, run, x, baseline, size, Direction(run.Text) ?? isRightToLeft);
            x += WidthOf(run, size);
        }
    }

    private void PlaceRun(List<Shape> shapes, TextRun run, double x, double baseline, double size, bool isRightToLeft)
    {
        var width = WidthOf(run, size);
        if (run.Highlight.Length > 0)
        {
            var color = InkStyle.All[InkStyle.IndexOf(InkStyle.Highlighter, run.Highlight, "medium")].Color;
            shapes.Insert(0, PathShape.Rectangle(x, baseline - (0.8 * size), width, 1.04 * size, color));
        }

        var language = run.Language.Length > 0 ? run.Language : null;
        if (run.Ruby.Length > 0)
        {
            shapes.Add(new TextShape(
                run.Text,
                Round(x + (width / 2)),
                Round(baseline),
                size,
                Color(run.Color),
                TextShape.Middle,
                run.IsBold,
                isRightToLeft,
                language));
            shapes.Add(new TextShape(
                run.Ruby, Round(x + (width / 2)), Round(baseline - (0.95 * size)), Round(size * RubySize), Color(run.Color), TextShape
                    .Middle, Language: language));
        }
        else
        {
            shapes.Add(new TextShape(
                run.Text, Round(isRightToLeft
                    ? x + width
                    : x), Round(baseline), size, Color(run.Color), TextShape.Start, run.IsBold, isRightToLeft, language));
        }
    }

    // Where a coloured letter ends inside a cursive word, a joiner on both sides keeps the letters' joined forms.
    private static List<TextRun> Joined(List<TextRun> line)
    {
        var joined = new List<TextRun>(line);
        for (var i = 1; i < joined.Count; i++)
        {
            if (joined[i - 1].Text.Length > 0 && joined[i].Text.Length > 0 && IsCursive(joined[i - 1].Text[^1]) && IsCursive(joined[i].Text[0]))
            {
                joined[i - 1] = joined[i - 1] with { Text = joined[i - 1].Text + ZeroWidthJoiner };
                joined[i] = joined[i] with { Text = ZeroWidthJoiner + joined[i].Text };
            }
        }

        return joined;
    }

    // Runs in the order in which they stand: neighbours of one direction keep theirs, the groups follow the line's.
    private static IEnumerable<TextRun> FromTheLeft(List<TextRun> line, bool isRightToLeft)
    {
        var groups = new List<(bool IsRightToLeft, List<TextRun> Runs)>();
        foreach (var run in line.SelectMany(OneDirection))
        {
            var direction = Direction(run.Text) ?? (groups.Count > 0 ? groups[^1].IsRightToLeft : isRightToLeft);
            if (groups.Count == 0 || groups[^1].IsRightToLeft != direction)
            {
                groups.Add((direction, []));
            }

            groups[^1].Runs.Add(run);
        }

        var ordered = isRightToLeft ? Enumerable.Reverse(groups) : groups;
        return ordered.SelectMany(g => g.IsRightToLeft ? Enumerable.Reverse(g.Runs) : g.Runs);
    }

    // A run divided where its direction changes; spaces and signs stay with what is before them.
    private static IEnumerable<TextRun> OneDirection(TextRun run)
    {
        if (run.Ruby.Length > 0)
        {
            yield return run;
            yield break;
        }

        var start = 0;
        bool? current = null;
        for (var i = 0; i < run.Text.Length; i += char.IsSurrogatePair(run.Text, i) ? 2 : 1)
        {
            if (!char.IsSurrogate(run.Text[i]) || char.IsSurrogatePair(run.Text, i))
            {
                var direction = Direction(char.IsSurrogatePair(run.Text, i) ? run.Text.Substring(i, 2) : run.Text[i].ToString());
                if (direction is not null && current is not null && direction != current)
                {
                    yield return run with { Text = run.Text[start..i] };
                    start = i;
                }

                current = direction ?? current;
            }
        }

        yield return run with { Text = run.Text[start..] };
    }

    private static double Round(double value) => Math.Round(value, 1);
}
