using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using NCalc;
using NCalc.Exceptions;

namespace ArchTalk.Core.Boards.Figures;

/// <summary>
/// A function of x, written as teachers write it ("2x^2 - sin(x)"): ^ is a power and a number before a letter or a bracket
/// multiplies it. Parsed and evaluated by NCalc.
/// </summary>
public sealed partial class Curve
{
    private const int Longest = 200;
    private static readonly string[] Values = ["x", "pi", "e"];
    private static readonly string[] Functions =
        ["abs", "acos", "asin", "atan", "ceiling", "cos", "exp", "floor", "ln", "log10", "pow", "round", "sign", "sin", "sqrt", "tan"];

    private readonly Expression expression;

    private Curve(Expression expression) => this.expression = expression;

    /// <summary>Reads a function; the fault says what can't be read.</summary>
    public static (Curve? Curve, string? Fault) Parse(string text)
    {
        if (text.Length > Longest)
        {
            return (null, $"A curve is written with at most {Longest} characters.");
        }

        var tokens = Token().Matches(text.Replace('−', '-').Replace('·', '*')).Select(m => m.Value).ToArray();
        if (Array.Find(tokens, t => char.IsAsciiLetter(t[0]) && !Values.Contains(t, StringComparer.Ordinal) && !Functions.Contains(t, StringComparer.Ordinal)) is { } unknown)
        {
            return (null, $"“{unknown}” in the curve isn't known. It can use x, pi, e, and functions such as sin, cos, tan, sqrt, exp, ln and abs.");
        }

        var plain = ToExpression(tokens);
        try
        {
            var read = new Expression(plain, CultureInfo.InvariantCulture) { Options = ExpressionOptions.IgnoreCaseAtBuiltInFunctions };
            read.Parameters["pi"] = Math.PI;
            read.Parameters["e"] = Math.E;
            read.Parameters["x"] = 1.0;
            return read.HasErrors() ? (null, Unreadable(text)) : (new Curve(read), null);
        }
        catch (Exception e) when (e is NCalcException or ArgumentException)
        {
            return (null, Unreadable(text));
        }
    }

    /// <summary>The value at x; NaN where there is none.</summary>
    public double At(double x)
    {
        expression.Parameters["x"] = x;
        try
        {
            return Convert.ToDouble(expression.Evaluate(), CultureInfo.InvariantCulture);
        }
        catch (Exception e) when (e is NCalcException or ArithmeticException or InvalidCastException or FormatException or ArgumentException or InvalidOperationException)
        {
            return double.NaN;
        }
    }

    // Products that aren't written get their sign, ^ becomes the parser's **, and a signed exponent its brackets.
    private static string ToExpression(string[] tokens)
    {
        var plain = new StringBuilder();
        for (var i = 0; i < tokens.Length; i++)
        {
            var (token, before) = (tokens[i], i > 0 ? tokens[i - 1] : "");
            if (IsOperandEnd(before) && (token == "(" || char.IsAsciiLetterOrDigit(token[0])))
            {
                plain.Append('*');
            }

            if (token == "-" && before == "^" && i + 1 < tokens.Length && IsOperandEnd(tokens[i + 1]))
            {
                plain.Append("(-").Append(tokens[++i]).Append(')');
            }
            else
            {
                plain.Append(token == "^" ? "**" : token);
            }
        }

        return plain.ToString();
    }

    private static bool IsOperandEnd(string token) =>
        token == ")" || Values.Contains(token, StringComparer.Ordinal) || (token.Length > 0 && (char.IsAsciiDigit(token[0]) || token[0] == '.'));

    private static string Unreadable(string text) => $"The curve “{text}” can't be read. Write it like 2x^2 - 3x + 1, and close every bracket.";

    [GeneratedRegex(@"[0-9]*\.?[0-9]+|[A-Za-z]+[0-9]*|\S", RegexOptions.None, 1000)]
    private static partial Regex Token();
}
