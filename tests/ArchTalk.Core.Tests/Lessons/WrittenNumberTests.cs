using System.Globalization;
using ArchTalk.Core.Lessons;
using CsCheck;

namespace ArchTalk.Core.Tests.Lessons;

public class WrittenNumberTests
{
    private static readonly string[] Languages
        = ["en", "de", "fr", "sv", "de-CH", "hi-IN", "ar-EG", "fa-IR", "mr-IN", "bn-BD", "my-MM", "he", "pt-BR", "ru"];

    // Reference: what .NET's culture data (Unicode CLDR) writes is read back as what it was.
    [Fact]
    public void What_a_language_writes_is_read_back()
    {
        Gen.Select(Gen.Int[0, Languages.Length - 1], Gen.Int[-99_999_999, 99_999_999], Gen.Int[0, 4]).Sample((at, digits, decimals) =>
        {
            var language = Languages[at];
            var culture = CultureInfo.GetCultureInfo(language);
            var value = digits / Math.Pow(10, decimals);
            foreach (var text in new[] {
                WrittenNumber.Write(value, culture),
                value.ToString("#,0.####", culture),
                value.ToString("0.####", culture) })
            {
                // A number such as 1.234 without decimals beside it could be one with groups.
                WrittenNumber.TryRead(text, culture, out var read).ShouldBeTrue($"{language}: {text}");
                read.ShouldBe(value, 1e-9, $"{language}: {text}");
            }
        });
    }

    [Theory]
    [InlineData("en", "0,5", 0.5)]
    [InlineData("en", "1,234", 1234)]
    [InlineData("de", "1.234,5", 1234.5)]
    [InlineData("de", "1.234", 1234)]
    [InlineData("de", "0.5", 0.5)]
    [InlineData("fr", "1 234,5", 1234.5)]
    [InlineData("en", "1 234.5", 1234.5)]
    [InlineData("hi-IN", "12,34,567", 1234567)]
    [InlineData("de-CH", "1'234.5", 1234.5)]
    [InlineData("en", "−3", -3)]
    [InlineData("ar-EG", "-١٬٢٣٤٫٥", -1234.5)]
    [InlineData("ar-EG", "12,5", 12.5)]
    public void A_number_is_read_as_people_write_it(string language, string text, double value)
    {
        WrittenNumber.TryRead(text, CultureInfo.GetCultureInfo(language), out var read).ShouldBeTrue();
        read.ShouldBe(value);
    }

    [Theory]
    [InlineData("en", "")]
    [InlineData("en", "abc")]
    [InlineData("en", "3 7")]
    [InlineData("en", "1.2.3")]
    [InlineData("de", "1,2,3")]
    [InlineData("en", "12,34.5")]
    [InlineData("en", "NaN")]
    [InlineData("en", "1e5")]
    [InlineData("en", "--1")]
    public void What_is_no_number_is_none(string language, string text) =>
        WrittenNumber.TryRead(text, CultureInfo.GetCultureInfo(language), out _).ShouldBeFalse();
}
