using System.Globalization;
using System.Text.RegularExpressions;
using ArchTalk.Core.Lessons;

namespace ArchTalk.Core.Boards.Figures;

/// <summary>
/// A function of x, written as teachers write it ("2x^2 - sin(x)"): ^ is a power, which binds closer than a sign before it, and a
/// number before a letter or a bracket multiplies it. Reading and evaluating take time in proportion to its length.
/// </summary>
/// <remarks>
/// <code>
/// sum     = product { ("+" | "-") product }
/// product = signed { ["*" | "/" | "·"] signed }        (without a sign only before a name, a number or a bracket)
/// signed  = { "-" | "+" } power
/// power   = value [ "^" signed ]
/// value   = number | "x" | "pi" | "e" | function "(" sum { "," sum } ")" | "(" sum ")" | "|" sum "|"
/// </code>
/// </remarks>
public sealed partial class Curve
{
    private const int Longest = 200;

    /// <summary>Brackets and powers within each other.</summary>
    private const int Deepest = 32;

    private static readonly Dictionary<string, Func<double, double>> Functions = new(StringComparer.Ordinal)
    {
        ["abs"] = Math.Abs,
        ["acos"] = Math.Acos,
        ["asin"] = Math.Asin,
        ["atan"] = Math.Atan,
        ["ceiling"] = Math.Ceiling,
        ["cos"] = Math.Cos,
        ["exp"] = Math.Exp,
        ["floor"] = Math.Floor,
        ["ln"] = Math.Log,
        ["log10"] = Math.Log10,
        ["round"] = Math.Round,
        ["sign"] = x => double.IsNaN(x) ? x : Math.Sign(x),
        ["sin"] = Math.Sin,
        ["sqrt"] = Math.Sqrt,
        ["tan"] = Math.Tan,
    };

    private static readonly Dictionary<string, Func<double, double>> Values = new(StringComparer.Ordinal)
    {
        ["x"] = x => x,
        ["pi"] = _ => Math.PI,
        ["e"] = _ => Math.E
    };

    private readonly Func<double, double> function;

    private Curve(Func<double, double> function) => this.function = function;

    /// <summary>Reads a function; the fault says what can't be read.</summary>
    /// <param name="culture">The language whose digits and decimal sign it may be written with; null for none of its own.</param>
    public static (Curve? Curve, string? Fault) Parse(string text, CultureInfo? culture = null)
    {
        if (text.Length > Longest)
        {
            return (null, $"A curve is written with at most {Longest} characters.");
        }

        var tokens = Token().Matches(Plain(text, culture ?? CultureInfo.InvariantCulture)).Select(m => m.Value).ToArray();
        if (Array.Find(tokens, t => char.IsAsciiLetter(t[0]) && t != "pow" && !Values.ContainsKey(t) && !Functions.ContainsKey(t)) is { } unknown)
        {
            return (null, $"“{unknown}” in the curve isn't known. It can use x, pi, e, and functions such as sin, cos, tan, sqrt, exp, ln and abs.");
        }

        try
        {
            return (new Curve(new Reader(tokens).Whole()), null);
        }
        catch (FormatException)
        {
            return (null, $"The curve “{text}” can't be read. Write it like 2x^2 - 3x + 1, and close every bracket.");
        }
        catch (TooDeepException)
        {
            return (null, $"The curve has more than {Deepest} brackets within each other. Write it with fewer.");
        }
    }

    /// <summary>The value at x; NaN or infinite where there is none.</summary>
    public double At(double x) => function(x);

    // Signs that teachers type, as the grammar has them: "0,5x²" is "0.5x^(2)".
    private static string Plain(string text, CultureInfo culture)
    {
        var ascii = Raised().Replace(
            WrittenNumber.Ascii(text),
            m => $"^({string.Concat(m.Value.Select(c => "0123456789+-"["⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻".IndexOf(c, StringComparison.Ordinal)]))})")
            .Replace('·', '*').Replace('×', '*').Replace('÷', '/')
            .Replace("π", "pi", StringComparison.Ordinal).Replace("√", "sqrt", StringComparison.Ordinal);

        // Between two digits a comma is a decimal sign, unless it stands between the two values of pow in a language that writes a point.
        var dividesValues = ascii.Contains("pow", StringComparison.Ordinal) && WrittenNumber.DecimalSign(culture) == ".";
        return dividesValues ? ascii : DecimalComma().Replace(ascii, ".");
    }

    [GeneratedRegex(@"[0-9]*\.?[0-9]+|[A-Za-z]+[0-9]*|\S", RegexOptions.None, 1000)]
    private static partial Regex Token();

    [GeneratedRegex("[⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻]+", RegexOptions.None, 1000)]
    private static partial Regex Raised();

    [GeneratedRegex("(?<=[0-9]),(?=[0-9])", RegexOptions.None, 1000)]
    private static partial Regex DecimalComma();

    private sealed class TooDeepException : Exception;

    // One method for each rule of the grammar.
    private sealed class Reader(string[] tokens)
    {
        private int next;
        private int depth;
        private int openBars;

        private string Token => next < tokens.Length ? tokens[next] : "";

        public Func<double, double> Whole()
        {
            var sum = Sum();
            return next == tokens.Length ? sum : throw new FormatException();
        }

        private Func<double, double> Sum()
        {
            if (++depth > Deepest)
            {
                throw new TooDeepException();
            }

            var sum = Product();
            while (Token is "+" or "-")
            {
                var (left, isMinus) = (sum, Take() == "-");
                var right = Product();
                sum = isMinus ? x => left(x) - right(x) : x => left(x) + right(x);
            }

            depth--;
            return sum;
        }

        private Func<double, double> Product()
        {
            var product = Signed();
            while (Token is "*" or "/" || BeginsValue())
            {
                var (left, isQuotient) = (product, Token == "/");
                if (!BeginsValue())
                {
                    next++;
                }

                var right = Signed();
                product = isQuotient ? x => left(x) / right(x) : x => left(x) * right(x);
            }

            return product;
        }

        private Func<double, double> Signed()
        {
            var isMinus = false;
            while (Token is "-" or "+")
            {
                isMinus ^= Take() == "-";
            }

            var power = Power();
            return isMinus ? x => -power(x) : power;
        }

        private Func<double, double> Power()
        {
            var value = Value();
            if (Token != "^")
            {
                return value;
            }

            next++;
            if (++depth > Deepest)
            {
                throw new TooDeepException();
            }

            var exponent = Signed();
            depth--;
            return x => Math.Pow(value(x), exponent(x));
        }

        private Func<double, double> Value()
        {
            var token = Take();
            if (Values.TryGetValue(token, out var value))
            {
                return value;
            }

            if (token == "(")
            {
                // A bar within brackets opens again.
                var outside = openBars;
                openBars = 0;
                var inner = Closed(Sum());
                openBars = outside;
                return inner;
            }

            if (token == "|")
            {
                openBars++;
                var inner = Sum();
                openBars--;
                return Take() == "|" ? x => Math.Abs(inner(x)) : throw new FormatException();
            }

            if (token == "pow" && Take() == "(")
            {
                var basis = Sum();
                var exponent = Take() is "," or ";" ? Closed(Sum()) : throw new FormatException();
                return x => Math.Pow(basis(x), exponent(x));
            }

            if (Functions.TryGetValue(token, out var function))
            {
                var argument = Take() == "(" ? Closed(Sum()) : throw new FormatException();
                return x => function(argument(x));
            }

            return double.TryParse(token, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number)
                ? _ => number
                : throw new FormatException();
        }

        private bool BeginsValue() =>
            Token is { Length: > 0 } token && (token == "(" || (token == "|" && openBars == 0) || char.IsAsciiLetterOrDigit(token[0]));

        private Func<double, double> Closed(Func<double, double> inner) => Take() == ")" ? inner : throw new FormatException();

        private string Take() => next < tokens.Length ? tokens[next++] : throw new FormatException();
    }
}
