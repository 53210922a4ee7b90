using ArchTalk.Core.Ink;

namespace ArchTalk.Tests;

/// <summary>A hand that draws along lines of words, made by a seed: it trembles, bends a little, and misses the line by a share of its height.</summary>
internal sealed class GeneratedHand(int seed)
{
    private const double Tremble = 3;
    private const double MostOff = 0.35;
    private readonly Random random = new(seed);

    public int Next(int count) => random.Next(count);

    public bool Once(int among) => random.Next(among) == 0;

    /// <summary>A stroke between two places of a line, in either direction.</summary>
    /// <param name="from">The left end in board units.</param>
    /// <param name="to">The right end in board units.</param>
    /// <param name="y">What is aimed at, at a place.</param>
    /// <param name="height">Of the line in board units.</param>
    public IReadOnlyList<InkPlace> Along(double from, double to, Func<double, double> y, double height)
    {
        var off = Between(-MostOff, MostOff) * height;
        var bend = Between(-0.1, 0.1) * height;
        var places = new List<InkPlace>();
        var count = Math.Max(4, (int)((to - from) / 7));
        for (var i = 0; i <= count; i++)
        {
            var x = from + ((to - from) * i / count);
            var bow = bend * ((4 * (i / (double)count) * (1 - (i / (double)count))) - 0.67);
            places.Add(new(Tenths(x + Between(-1, 1)), Tenths(y(x) + off + bow + Between(-Tremble, Tremble))));
        }

        if (Once(2))
        {
            places.Reverse();
        }

        return places;
    }

    /// <summary>How far it begins or ends beside the edge of a word that is so wide: inside up to a third of it.</summary>
    public double Beside(double width, double height) => Between(-0.3, Math.Min(0.3, width / height / 3)) * height;

    private double Between(double from, double to) => from + (random.NextDouble() * (to - from));

    private static int Tenths(double units) => (int)Math.Round(units * 10);
}
