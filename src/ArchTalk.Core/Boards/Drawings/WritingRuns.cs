using System.Globalization;
using System.Text;
using ArchTalk.Core.Boards.Items;

namespace ArchTalk.Core.Boards.Drawings;

/// <summary>A stretch of writing in one direction.</summary>
public readonly record struct WritingRun(string Text, bool IsRightToLeft);

/// <summary>
/// Parts a line of writing into stretches of one direction, as they stand from the left. What browsers do by Unicode Annex 9, for one line
/// without marks of direction: numbers run from the left within what runs from the right (rules W2, W4, W5), signs and spaces go with what
/// is on both their sides, else with the line (N1, N2), and stretches are turned round level by level (L2).
/// </summary>
public static class WritingRuns
{
    private enum Kind
    {
        Left = 0,
        Right = 1,
        Number = 2,
        Separator = 3,
        NumberSign = 4,
        Neutral = 5,
        Mark = 6,
    }

    /// <param name="isRightToLeft">The direction of the line.</param>
    public static IReadOnlyList<WritingRun> FromTheLeft(string text, bool isRightToLeft)
    {
        string[] letters = [.. text.EnumerateRunes().Select(r => r.ToString())];
        var kinds = Array.ConvertAll(letters, l => KindOf(Rune.GetRuneAt(l, 0)));
        Join(kinds);
        var levels = Levels(kinds, isRightToLeft);
        var runs = new List<(WritingRun Run, int Level)>();
        for (var i = 0; i < letters.Length; i++)
        {
            if (runs.Count > 0 && runs[^1].Level == levels[i])
            {
                runs[^1] = (runs[^1].Run with { Text = runs[^1].Run.Text + letters[i] }, levels[i]);
            }
            else
            {
                runs.Add((new(letters[i], levels[i] % 2 == 1), levels[i]));
            }
        }

        for (var level = 2; level >= 1; level--)
        {
            Turn(runs, level);
        }

        return [.. runs.Select(r => r.Run)];
    }

    private static Kind KindOf(Rune rune) => rune.Value switch
    {
        '+' or '-' or '.' or ',' or ':' or '/' or 0xA0 => Kind.Separator,
        '%' or '°' or '#' or '$' or '€' or '£' => Kind.NumberSign,
        _ when Rune.IsDigit(rune) => Kind.Number,
        _ when Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark or UnicodeCategory.Format => Kind.Mark,
        _ => TextSetter.Direction(rune.ToString()) switch { true => Kind.Right, false => Kind.Left, null => Kind.Neutral },
    };

    // Marks are as what they stand on (W1); one separator between numbers, and signs beside one, are of it (W4, W5); others are signs (W6).
    private static void Join(Kind[] kinds)
    {
        for (var i = 0; i < kinds.Length; i++)
        {
            kinds[i] = kinds[i] switch
            {
                Kind.Mark => i > 0 ? kinds[i - 1] : Kind.Neutral,
                Kind.Separator => Beside(kinds, i, -1) == Kind.Number && Beside(kinds, i, 1) == Kind.Number ? Kind.Number : Kind.Neutral,
                Kind.NumberSign => Beside(kinds, i, -1) == Kind.Number || Beside(kinds, i, 1) == Kind.Number ? Kind.Number : Kind.Neutral,
                var kind => kind,
            };
        }
    }

    private static Kind Beside(Kind[] kinds, int i, int step) => i + step >= 0 && i + step < kinds.Length ? kinds[i + step] : Kind.Neutral;

    private static int[] Levels(Kind[] kinds, bool isRightToLeft)
    {
        // A number is, to what is beside it, of the direction of the last letter before it (W7, N1).
        var sides = new Kind[kinds.Length];
        var last = isRightToLeft ? Kind.Right : Kind.Left;
        for (var i = 0; i < kinds.Length; i++)
        {
            last = kinds[i] is Kind.Left or Kind.Right ? kinds[i] : last;
            sides[i] = kinds[i] == Kind.Number ? last : kinds[i];
        }

        var line = isRightToLeft ? Kind.Right : Kind.Left;
        var before = line;
        var levels = new int[kinds.Length];
        for (var i = 0; i < kinds.Length; i++)
        {
            var side = sides[i];
            if (side == Kind.Neutral)
            {
                var next = sides.Skip(i).FirstOrDefault(s => s != Kind.Neutral, line);
                side = before == next ? before : line;
            }
            else
            {
                before = side;
            }

            levels[i] = side == Kind.Right ? (kinds[i] == Kind.Number ? 2 : 1) : isRightToLeft ? 2 : 0;
        }

        return levels;
    }

    private static void Turn(List<(WritingRun Run, int Level)> runs, int level)
    {
        for (var from = 0; from < runs.Count; from++)
        {
            var to = from;
            while (to < runs.Count && runs[to].Level >= level)
            {
                to++;
            }

            runs.Reverse(from, to - from);
            from = Math.Max(from, to);
        }
    }
}
