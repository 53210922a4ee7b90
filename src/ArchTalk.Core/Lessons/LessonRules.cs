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

    /// <summary>Most translations of one term.</summary>
    public const int MostTranslations = 20;

    /// <summary>Most lines of a short list: choices, aims, an agenda, classes, languages.</summary>
    public const int MostLines = 100;

    /// <summary>Most entries in a list.</summary>
    public const int MostEntries = 500;

    public static Checked<IReadOnlyList<Term>> Terms(IEnumerable<Term> terms)
    {
        var tidy = terms.Select(Tidy).Where(t => t.Word.Length + t.Reading.Length + t.Meaning.Length > 0).ToArray();
        return tidy.Select(Fault).FirstOrDefault(f => f is not null) is { } fault ? fault : Limit<Term>(tidy);

        static Term Tidy(Term t) => t with
        {
            Word = Trim(t.Word),
            Reading = Trim(t.Reading),
            Meaning = Trim(t.Meaning),
            Language = Trim(t.Language),
            PartOfSpeech = Trim(t.PartOfSpeech),
            Example = Trim(t.Example),
            Parts = Trim(t.Parts),
            Synonym = Trim(t.Synonym),
            ConfusedWith = Trim(t.ConfusedWith),
            MemoryAid = Trim(t.MemoryAid),
            Status = t.Status is Term.Known or Term.Later ? t.Status : Term.New,
            Translations = [.. (t.Translations ?? []).Select(x => new Translation(Trim(x.Language), Trim(x.Text))).Where(x => x.Text.Length > 0)],
        };

        static string? Fault(Term t) =>
            t.Translations.Count > MostTranslations
                ? $"“{Short(t.Word)}” has {t.Translations.Count} translations; at most {MostTranslations} can be kept."
                : t.Word.Length == 0 ? $"The entry “{Short(t.Meaning.Length > 0 ? t.Meaning : t.Reading)}” has no word. Type the word it explains."
            : TooLong([t.Word, t.Reading, t.Meaning, t.PartOfSpeech, t.Example, t.Parts, t.Synonym, t.ConfusedWith, t.MemoryAid, .. t.Translations
                .Select(x => x.Text)])
                ?? t.Translations.Select(x => x.Language).Append(t.Language).FirstOrDefault(l => !LanguageTag.IsKnown(l)) switch
                {
                    { } unknown => LanguageTag.Fault(unknown),
                    null when t.Translations
                        .Any(x => x.Language.Length == 0) => $"A translation of “{Short(t.Word)}” has no language. Type its tag, such as fr.",
                    null => null,
                };
    }

    public static Checked<IReadOnlyList<Reference>> References(IEnumerable<Reference> references)
    {
        var tidy = references
            .Select(r => r with
            {
                Title = Trim(r.Title),
                Address = Trim(r.Address),
                Pages = Trim(r.Pages),
                Note = Trim(r.Note),
                Accessed = Trim(r.Accessed),
                Stored = Trim(r.Stored),
                FileName = Trim(r.FileName),
            })
            .Where(r => r.Title.Length + r.Address.Length + r.Pages.Length + r.Note.Length + r.Stored.Length > 0)
            .ToArray();
        return tidy.Select(Fault).FirstOrDefault(f => f is not null) is { } fault ? fault : Limit<Reference>(tidy);

        static string? Fault(Reference r) => r switch
        {
            _ when TooLong(r.Title, r.Address, r.Pages, r.Note) is { } tooLong => tooLong,
            _ when !Reference.Kinds
                .Contains(r.Kind, StringComparer.Ordinal) => "A reference is a web page, an interactive tool, a book, an exercise or a file.",
            { Title: "" } => "A reference has no title. Students see the title, so type one.",
            { IsOnWeb: true } when !WebAddress.Is(r.Address) =>
                $"“{Short(r.Address)}” isn't a web address. It should begin with https:// or http://.",
            { IsOnWeb: true, Accessed.Length: > 0 } when !DateOnly.TryParseExact(
                r.Accessed,
                "yyyy-MM-dd",
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out _) =>
                $"“{Short(r.Accessed)}” isn't a date. Write it as year, month and day, such as 2026-11-25.",
            { Kind: Reference.File, Stored: "" } => $"“{Short(r.Title)}” has no file yet. Choose the file students should get.",
            _ => null,
        };
    }

    public static Checked<LessonTask> Task(LessonTask task)
    {
        var tidy = new LessonTask(Lines(task.Steps), Trim(task.Ready), Trim(task.HandIn), Trim(task.Where), Trim(task.When))
        {
            Choices = Lines(task.Choices),
            Worked = Trim(task.Worked),
            Marking = Trim(task.Marking),
            Classes = [.. (task.Classes ?? []).Select(c => new ClassHandIn(Trim(c.Class), Trim(c.Where), Trim(c.When)))
                .Where(c => c.Class.Length + c.Where.Length + c.When.Length > 0)],
        };
        if (TooLong([.. tidy.Steps, .. tidy.Choices, tidy.Ready, tidy.HandIn, tidy.Where, tidy.When, tidy.Worked, tidy.Marking]) is { } fault)
        {
            return fault;
        }

        return (TooMany(("choices", tidy.Choices.Count), ("classes", tidy.Classes.Count))
            ?? TooLong([.. tidy.Classes.SelectMany(c => new[] { c.Class, c.Where, c.When })])) is { } many ? many
            : tidy.Steps.Count > MostEntries ? $"A task can have at most {MostEntries} steps."
            : tidy.Classes.Any(c => c.Class.Length == 0) ? "A class has no name. Type it, so that its students find their own line."
            : new Checked<LessonTask>(tidy, null);
    }

    public static Checked<LessonDetails> Details(LessonDetails details)
    {
        var tidy = details with
        {
            Language = Trim(details.Language).Length == 0 ? LessonDetails.Empty.Language : Trim(details.Language),
            OtherLanguages = Lines(details.OtherLanguages),
            AgeGroup = Trim(details.AgeGroup),
            Aims = Lines(details.Aims),
            Before = Trim(details.Before),
            NotCovered = Trim(details.NotCovered),
            Agenda = Lines(details.Agenda),
            Ready = Trim(details.Ready),
            Contact = Trim(details.Contact),
        };
        return TooMany(("aims", tidy.Aims.Count), ("lines of the agenda", tidy.Agenda.Count), ("languages", tidy.OtherLanguages.Count)) is { } many
            ? many
            : tidy.OtherLanguages.Prepend(tidy.Language).FirstOrDefault(l => !LanguageTag.IsKnown(l)) is { } unknown ? LanguageTag.Fault(unknown)
            : TooLong([tidy.AgeGroup, tidy.Before, tidy.NotCovered, tidy.Ready, tidy.Contact, .. tidy.Aims, .. tidy.Agenda]) is { } fault ? fault
            : new Checked<LessonDetails>(tidy, null);
    }

    public static Checked<IReadOnlyList<Chapter>> Chapters(IEnumerable<Chapter> chapters)
    {
        var tidy = chapters.Select(c => c with { Title = Trim(c.Title) }).ToArray();
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

    private static string Trim(string? text) => (text ?? "").Trim();

    private static string[] Lines(IReadOnlyList<string>? lines) => [.. (lines ?? []).Select(Trim).Where(l => l.Length > 0)];

    private static string Short(string text) => text.Length <= 40 ? text : string.Concat(text.AsSpan(0, 40), "…");

    private static string? TooMany(params (string What, int Count)[] lists) =>
        Array.Find(lists, l => l.Count > MostLines) is { What: not null } list
            ? $"There are too many {list.What}; at most {MostLines} can be kept."
            : null;

    private static string? TooLong(params string[] texts) =>
        Array.Find(texts, t => t.Length > LongestText) is { } text
            ? $"“{Short(text)}” is longer than {LongestText} characters. Shorten it."
            : null;
}

/// <summary>A value that was found right, or the reason it wasn't.</summary>
public readonly record struct Checked<T>(T? Value, string? Fault)
    where T : class
{
    public static implicit operator Checked<T>(string fault) => new(null, fault);
}
