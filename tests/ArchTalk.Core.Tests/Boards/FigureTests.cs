using System.Globalization;
using System.Text.Json;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Figures;

namespace ArchTalk.Core.Tests.Boards;

/// <summary>Figures against geometry and culture data.</summary>
public class FigureTests
{
    private static double[] Numbers(string d) =>
        [.. d.Split(['M', 'L', 'Z', 'h', 'v', 'a', ' '], StringSplitOptions.RemoveEmptyEntries)
            .Select(n => double.Parse(n, CultureInfo.InvariantCulture))];

    private static IEnumerable<PathShape> Paths(Drawing drawing) => drawing.Shapes.OfType<PathShape>();

    private static string[] Texts(Drawing drawing) => [.. drawing.Shapes.OfType<TextShape>().Select(t => t.Text)];

    // Geometry: the minute hand goes 6° a minute, the hour hand 30° an hour and half a degree a minute.
    [Theory]
    [InlineData(3, 0, 90, 0)]
    [InlineData(12, 30, 15, 180)]
    [InlineData(21, 45, 292.5, 270)]
    [InlineData(10, 10, 305, 60)]
    public void The_hands_of_a_clock_stand_where_geometry_puts_them(int hour, int minute, double hourAngle, double minuteAngle)
    {
        ClockFace.HourAngle(hour, minute).ShouldBe(hourAngle);
        ClockFace.MinuteAngle(minute).ShouldBe(minuteAngle);

        var drawing = new ClockFace { Hour = hour, Minute = minute }.Draw(400, 600);
        drawing.Width.ShouldBe(400);
        drawing.Height.ShouldBe(400);
        double[] angles = [.. Paths(drawing).Where(p => p.Fill is null).TakeLast(2).Select(p => Numbers(p.D))
            .Select(n => (Math.Atan2(n[2] - 200, 200 - n[3]) * 180 / Math.PI + 360) % 360)];
        angles[0].ShouldBe(hourAngle, 0.05);
        angles[1].ShouldBe(minuteAngle, 0.05);
    }

    [Fact]
    public void Digits_and_hands_of_a_clock_can_be_hidden()
    {
        Texts(new ClockFace().Draw(300, 300)).Length.ShouldBe(12);
        Texts(new ClockFace { ShowsDigits = false }.Draw(300, 300)).ShouldBeEmpty();
        Paths(new ClockFace { ShowsHands = false, ShowsMinutes = false }.Draw(300, 300)).Count().ShouldBe(1 + 12);
        new ClockFace { Minute = 60 }.Fault()!.ShouldContain("0 to 59");
    }

    [Fact]
    public void A_number_line_spaces_its_strokes_evenly_and_writes_numbers_as_the_locale_does()
    {
        var line = new NumberLine { From = -1, To = 1, Step = 0.25, NumberEvery = 2, Locale = "de", Marked = [0.5] };
        line.Fault().ShouldBeNull();
        var drawing = line.Draw(1000, 120);
        Texts(drawing).ShouldBe(["−1", "−0,5", "0", "0,5", "1"]);
        double[] strokes = [.. Paths(drawing).Where(p => p.StrokeWidth == 3 && p.Fill is null).Select(p => Numbers(p.D)[0])];
        strokes.Length.ShouldBe(9);
        var even = (strokes[^1] - strokes[0]) / 8;
        strokes.Zip(strokes.Skip(1), (a, b) => b - a).ShouldAllBe(gap => Math.Abs(gap - even) < 0.02);
        var dot = Numbers(Paths(drawing).Last().D);
        (dot[0] + 12).ShouldBe(strokes[6], 0.02);
    }

    [Theory]
    [InlineData(5, 5, 1)]
    [InlineData(0, 10, 0)]
    [InlineData(0, 10, 0.001)]
    [InlineData(double.NaN, 10, 1)]
    public void A_number_line_that_cannot_be_drawn_says_so(double from, double to, double step) =>
        new NumberLine { From = from, To = to, Step = step }.Fault().ShouldNotBeNull();

    // Unicode CLDR through .NET's culture data: #,##0 in English, #,##,##0 in Hindi.
    [Theory]
    [InlineData("en", new[] { "1,000,000", "100,000", "10,000", "1,000", "100", "10", "1" }, new[] { 2, 1, 1, 1, 0, 0, 0 })]
    [InlineData("hi-IN", new[] { "10,00,000", "1,00,000", "10,000", "1,000", "100", "10", "1" }, new[] { 2, 2, 1, 1, 0, 0, 0 })]
    [InlineData("de-DE", new[] { "1.000.000", "100.000", "10.000", "1.000", "100", "10", "1" }, new[] { 2, 1, 1, 1, 0, 0, 0 })]
    public void A_place_value_chart_follows_the_digit_groups_of_its_locale(string locale, string[] headings, int[] groups)
    {
        var columns = new PlaceValueChart { Number = "1305020", Locale = locale }.Columns();
        columns.Select(c => c.Heading).ShouldBe(headings);
        columns.Select(c => c.Group).ShouldBe(groups);
        string.Concat(columns.Select(c => c.Digit)).ShouldBe("1305020");
    }

    [Fact]
    public void Decimals_stand_after_the_decimal_line_and_empty_places_before_the_number()
    {
        var columns = new PlaceValueChart { Number = "7.05", Places = 3 }.Columns();
        columns.Select(c => c.Heading).ShouldBe(["100", "10", "1", "0.1", "0.01"]);
        columns.Select(c => c.Digit).ShouldBe(["", "", "7", "0", "5"]);
        new PlaceValueChart { Number = "12a" }.Fault().ShouldNotBeNull();
        new PlaceValueChart { Number = "1234567890123456" }.Fault()!.ShouldContain("at most 15");
        Texts(new PlaceValueChart { ShowsDigits = false }.Draw(600, 200)).Where(t => t == "5").ShouldBeEmpty();
    }

    [Fact]
    public void Unit_cubes_are_counted_and_seen_at_thirty_degrees()
    {
        var box = new UnitCubes { Length = 4, Depth = 3, Height = 2 };
        box.Count.ShouldBe(24);
        box.VisibleSquares.ShouldBe(12 + 8 + 6);
        var drawing = box.Draw(600, 600);
        Paths(drawing).Count().ShouldBe(box.VisibleSquares);

        // All edges are of one length and lie level, upright or at 30° (isometric projection).
        foreach (var path in Paths(drawing))
        {
            var n = Numbers(path.D);
            for (var i = 0; i + 3 < n.Length; i += 2)
            {
                var angle = Math.Abs(Math.Atan2(n[i + 3] - n[i + 1], n[i + 2] - n[i]) * 180 / Math.PI) % 180;
                Math.Min(Math.Abs(angle - 30), Math.Min(Math.Abs(angle - 90), Math.Abs(angle - 150))).ShouldBeLessThan(0.05);
            }
        }

        new UnitCubes { Depth = 0 }.Fault()!.ShouldContain("1 to 12");
    }

    [Fact]
    public void Points_on_axes_stand_at_their_coordinates()
    {
        var axes = new Axes { XFrom = -2, XTo = 4, YFrom = 0, YTo = 10, YStep = 5, Points = [new(1, 5, "P")] };
        axes.Fault().ShouldBeNull();
        axes.Place(1, 5, 600, 400).ShouldBe((300, 200));
        var dot = Numbers(Paths(axes.Draw(600, 400)).Last().D);
        dot[0].ShouldBe(300 - 9);
        dot[1].ShouldBe(200);
        Texts(axes.Draw(600, 400)).ShouldContain("P");
        new Axes { XFrom = 3, XTo = 1 }.Fault()!.ShouldContain("x axis");
        new Axes { Curve = "2x +" }.Fault()!.ShouldContain("can't be read");
    }

    [Fact]
    public void A_curve_is_left_out_where_it_has_no_value_or_leaves_the_plot()
    {
        var axes = new Axes { Curve = "1/x" };
        var runs = axes.CurveRuns(Curve.Parse("1/x").Curve!, 800, 800).ToArray();
        runs.Length.ShouldBe(2);
        var (top, bottom) = (axes.Place(0, 5, 800, 800).Y, axes.Place(0, -5, 800, 800).Y);
        runs.SelectMany(r => r).ShouldAllBe(p => p.Y >= top - 0.01 && p.Y <= bottom + 0.01);

        // The branches end where they meet the edge: 1/x is 5 at x = 0.2.
        runs[1][0].X.ShouldBe(axes.Place(0.2, 5, 800, 800).X, 1.5);
        axes.CurveRuns(Curve.Parse("sqrt(x)").Curve!, 800, 800).ShouldHaveSingleItem()[0].X.ShouldBe(axes.Place(0, 0, 800, 800).X, 2.1);

        // A half circle ends on the axis, though no sample falls there.
        var half = axes.CurveRuns(Curve.Parse("sqrt(9.3 - x^2)").Curve!, 800, 800).ShouldHaveSingleItem();
        half[0].Y.ShouldBe(axes.Place(0, 0, 800, 800).Y, 0.01);
        half[^1].X.ShouldBe(axes.Place(Math.Sqrt(9.3), 0, 800, 800).X, 0.01);
    }

    // Reference: System.Math.
    [Theory]
    [InlineData("2x^2 - 3x + 1", 3.0, 10.0)]
    [InlineData("-x^2", 3.0, -9.0)]
    [InlineData("2(x+1)(x-1)", 3.0, 16.0)]
    [InlineData("x/2", 3.0, 1.5)]
    [InlineData("1/2", 0.0, 0.5)]
    [InlineData("2^-x", 2.0, 0.25)]
    [InlineData("2 sin(pi x)", 0.5, 2.0)]
    [InlineData("10x·2", 1.5, 30.0)]
    [InlineData("2^3^2", 0.0, 512.0)]
    [InlineData("1/2x", 4.0, 2.0)]
    [InlineData("--x + +1", 4.0, 5.0)]
    [InlineData("pow(x, 3) - 2^-x", 2.0, 7.75)]
    [InlineData("0,5x²", 4.0, 8.0)]
    [InlineData("x² + x⁻¹", 2.0, 4.5)]
    [InlineData("|x - 3| + 2|x|", 1.0, 4.0)]
    [InlineData("|2(|x| - 3)|", -1.0, 4.0)]
    [InlineData("3×x ÷ 2 − √(x)", 4.0, 4.0)]
    [InlineData("٠٫٥x", 4.0, 2.0)]
    [InlineData("pow(2,5; x)", 2.0, 6.25, "de")]
    public void A_curve_reads_as_it_is_written_at_school(string text, double x, double value, string? language = null) =>
        Curve.Parse(text, language is null ? null : CultureInfo.GetCultureInfo(language)).Curve!.At(x).ShouldBe(value, 1e-12);

    [Fact]
    public void A_point_outside_the_axes_is_told_and_crowded_numbers_leave_some_out()
    {
        new Axes { Points = [new(9, 1, "P")] }.Notice()!.ShouldContain("The point P lies outside the axes");
        new Axes { Points = [new(9.5, 1, "")], Locale = "de" }.Notice()!.ShouldContain("9,5; 1");
        new Axes { Points = [new(1, 1, "P")] }.Notice().ShouldBeNull();
        foreach (var to in new[] { 10, 100, 200 })
        {
            // As wide as the figures' own letters: 0.6 em for each, and some air between two numbers.
            var numbers = new NumberLine { From = 0, To = to * 1000, Step = 1000 }.Draw(1200, 130).Shapes.OfType<TextShape>().OrderBy(t => t.X)
                .ToArray();
            numbers.Zip(numbers.Skip(1))
                .ShouldAllBe(p => p.Second.X - p.First.X >= 0.6 * p.First.Size * Math.Max(p.First.Text.Length, p.Second.Text.Length), $"to {to}");
            numbers.Length.ShouldBeGreaterThan(4);
        }
    }

    [Fact]
    public void Numbers_stand_in_the_digits_of_the_language_with_their_sign_before_them()
    {
        string[] written = [.. new NumberLine { From = -2, To = 2, Locale = "ar-EG" }.Draw(1000, 120).Shapes.OfType<TextShape>().Select(t => t.Text)];
        written.ShouldBe(["−٢", "−١", "٠", "١", "٢"]);
        new PlaceValueChart { Number = "1.234,5", Locale = "de" }.Columns().Select(c => c.Digit).ShouldBe(["1", "2", "3", "4", "5"]);
        new PlaceValueChart { Number = "1,234.50", Locale = "en" }.Columns().Select(c => c.Digit).ShouldBe(["1", "2", "3", "4", "5", "0"]);
        new PlaceValueChart { Number = "١٢٫٥", Locale = "ar-EG" }.Columns().Select(c => c.Digit).ShouldBe(["١", "٢", "٥"]);
        new PlaceValueChart { Number = "1,2,3", Locale = "de" }.Fault()!.ShouldContain("with a comma before its decimals");
    }

    [Fact]
    public void Functions_agree_with_the_reference_library()
    {
        (string Text, Func<double, double> Reference)[] functions =
        [
            ("sin(x)", Math.Sin), ("cos(x)", Math.Cos), ("tan(x)", Math.Tan), ("exp(x)", Math.Exp), ("ln(x)", Math.Log), ("sqrt(x)", Math.Sqrt),
            ("abs(x)", Math.Abs), ("log10(x)", Math.Log10), ("e^x", x => Math.Pow(Math.E, x)), ("x^x", x => Math.Pow(x, x)),
        ];
        foreach (var (text, reference) in functions)
        {
            var curve = Curve.Parse(text).Curve!;
            for (var x = 0.1; x < 4; x += 0.37)
            {
                curve.At(x).ShouldBe(reference(x), 1e-9, text);
            }
        }
    }

    [Theory]
    [InlineData("2x +", "can't be read")]
    [InlineData("foo(x)", "isn't known")]
    [InlineData("system", "isn't known")]
    [InlineData("(x", "can't be read")]
    [InlineData("", "can't be read")]
    [InlineData("sin x", "can't be read")]
    [InlineData("1.2.3", "can't be read")]
    [InlineData("x$", "can't be read")]
    public void A_curve_that_cannot_be_read_is_named(string text, string fault) => Curve.Parse(text).Fault!.ShouldContain(fault);

    // Found in the running application: 26 brackets took 12.6 s, 199 never ended.
    [Theory]
    [InlineData("(", 26, null)]
    [InlineData("(", 99, "brackets within each other")]
    [InlineData("-", 199, null)]
    [InlineData("x^", 99, "brackets within each other")]
    [InlineData("sin(", 39, "brackets within each other")]
    public void A_curve_is_read_in_time_however_it_is_nested(string opening, int times, string? fault)
    {
        var text = string.Concat(Enumerable.Repeat(opening, times)) + "x" + new string(')', opening.EndsWith('(') ? times : 0);
        var (curve, found) = Curve.Parse(text);
        if (fault is null)
        {
            curve!.At(2).ShouldBe(opening == "-" ? -2 : 2);
        }
        else
        {
            found!.ShouldContain(fault);
        }
    }

    [Fact]
    public void A_curve_has_no_value_outside_its_domain()
    {
        double.IsFinite(Curve.Parse("ln(x)").Curve!.At(-1)).ShouldBeFalse();
        double.IsFinite(Curve.Parse("1/x").Curve!.At(0)).ShouldBeFalse();
    }

    [Fact]
    public void Figures_survive_being_stored_and_describe_themselves()
    {
        Figure[] figures = [new ClockFace { Hour = 3, Minute = 5 }, new NumberLine(), new PlaceValueChart(), new UnitCubes(), new Axes {
            Curve = "x^2" }];
        foreach (var figure in figures)
        {
            var again = JsonSerializer.Deserialize<Figure>(JsonSerializer.Serialize(figure, JsonSerializerOptions.Web), JsonSerializerOptions.Web)!;
            again.GetType().ShouldBe(figure.GetType());
            again.Describe().ShouldBe(figure.Describe());
            SvgDrawing.Write(again.Draw(400, 300)).ToString().ShouldBe(SvgDrawing.Write(figure.Draw(400, 300)).ToString());
        }

        new ClockFace { Hour = 15, Minute = 5 }.Describe().ShouldBe("A clock face showing 3:05.");
    }
}
