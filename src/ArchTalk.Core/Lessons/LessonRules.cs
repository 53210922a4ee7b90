using System.Globalization;

namespace ArchTalk.Core.Lessons;

/// <summary>
/// What may stand in a lesson's lists. Each function gives back the list put in order (blanks trimmed, empty entries left
/// out) or the first thing that is wrong, said so that a teacher can mend it.
/// </summary>
public static class LessonRules
{
    /// <summary>Longest single field in characters.</summary>
    public const int LongestText = 2000;

    /// <summary>Most entries in a list.</summary>
    public const int MostEntries = 500;

    public static Checked<IReadOnlyList<Term>> Terms(IEnumerable<Term> terms)
    {
        var tidy = terms
            .Select(t => t with { Word = Tidy(t.Word), Reading = Tidy(t.Reading), Meaning = Tidy(t.Meaning), Language = Tidy(t.Language) })
            .Where(t => t.Word.Length + t.Reading.Length + t.Meaning.Length > 0)
            .ToArray();
        return tidy.Select(Fault).FirstOrDefault(f => f is not null) is { } fault ? fault : Limit<Term>(tidy);

        static string? Fault(Term t) =>
            t.Word.Length == 0 ? $"The entry “{Short(t.Meaning.Length > 0 ? t.Meaning : t.Reading)}” has no word. Type the word it explains."
            : TooLong(t.Word, t.Reading, t.Meaning) ?? (IsLanguage(t.Language) ? null
                : $"“{Short(t.Language)}” isn't a language tag. Use one such as en, fr or pt-BR, or leave it empty.");
    }

    public static Checked<IReadOnlyList<Reference>> References(IEnumerable<Reference> references)
    {
        var tidy = references
            .Select(r => r with { Title = Tidy(r.Title), Address = Tidy(r.Address), Pages = Tidy(r.Pages), Note = Tidy(r.Note) })
            .Where(r => r.Title.Length + r.Address.Length + r.Pages.Length + r.Note.Length > 0)
            .ToArray();
        return tidy.Select(Fault).FirstOrDefault(f => f is not null) is { } fault ? fault : Limit<Reference>(tidy);

        static string? Fault(Reference r) => r switch
        {
            _ when TooLong(r.Title, r.Address, r.Pages, r.Note) is { } tooLong => tooLong,
            { Kind: not (Reference.Web or Reference.Book) } => "A reference is either a web page or a book.",
            { Title: "" } => "A reference has no title. Students see the title, so type one.",
            { Kind: Reference.Web } when !IsWebAddress(r.Address) =>
                $"“{Short(r.Address)}” isn't a web address. It should begin with https:// or http://.",
            _ => null,
        };
    }

    public static Checked<LessonTask> Task(LessonTask task)
    {
        var steps = task.Steps.Select(Tidy).Where(s => s.Length > 0).ToArray();
        var tidy = new LessonTask(steps, Tidy(task.Ready), Tidy(task.HandIn), Tidy(task.Where), Tidy(task.When));
        if (TooLong([.. steps, tidy.Ready, tidy.HandIn, tidy.Where, tidy.When]) is { } fault)
        {
            return fault;
        }

        return steps.Length > MostEntries ? (Checked<LessonTask>)$"A task can have at most {MostEntries} steps." : new Checked<LessonTask>(tidy, null);
    }

    public static Checked<IReadOnlyList<Chapter>> Chapters(IEnumerable<Chapter> chapters)
    {
        var tidy = chapters.Select(c => c with { Title = Tidy(c.Title) }).ToArray();
        if (Array.Find(tidy, c => c.Title.Length is 0 or > Chapter.LongestTitle) is { } bad)
        {
            return bad.Title.Length == 0
                ? "A chapter has no name. Students choose chapters by name, so type one."
                : $"The chapter name “{Short(bad.Title)}” is longer than {Chapter.LongestTitle} characters. Shorten it.";
        }

        return Limit<Chapter>(tidy);
    }

    private static Checked<IReadOnlyList<T>> Limit<T>(T[] entries) => entries.Length > MostEntries
        ? (Checked<IReadOnlyList<T>>)$"There are {entries.Length} entries; at most {MostEntries} fit in a lesson."
        : new Checked<IReadOnlyList<T>>(entries, null);

    private static string Tidy(string? text) => (text ?? "").Trim();

    private static string Short(string text) => text.Length <= 40 ? text : string.Concat(text.AsSpan(0, 40), "…");

    private static string? TooLong(params string[] texts) =>
        Array.Find(texts, t => t.Length > LongestText) is { } text
            ? $"“{Short(text)}” is longer than {LongestText} characters. Shorten it."
            : null;

    private static bool IsWebAddress(string address) =>
        Uri.TryCreate(address, UriKind.Absolute, out var uri) && (uri.Scheme == Uri.UriSchemeHttp || uri.Scheme == Uri.UriSchemeHttps) && uri.Host.Length > 0;

    private static bool IsLanguage(string tag)
    {
        if (tag.Length == 0)
        {
            return true;
        }

        try
        {
            // BCP 47 as the culture data knows it; made-up tags are given a culture too, so the name must look like one.
            return CultureInfo.GetCultureInfo(tag).Name.Length > 0 && char.IsAsciiLetter(tag[0]) && tag.IndexOf('-', StringComparison.Ordinal) is -1 or 2 or 3;
        }
        catch (CultureNotFoundException)
        {
            return false;
        }
    }
}

/// <summary>A value that was found right, or the reason it wasn't.</summary>
public readonly record struct Checked<T>(T? Value, string? Fault)
    where T : class
{
    public static implicit operator Checked<T>(string fault) => new(null, fault);
}
