namespace ArchTalk.Core.Lessons;

/// <summary>What can be done with a vocabulary as a whole.</summary>
public static class TermLists
{
    /// <summary>In the order of each word's own alphabet, the words of the lesson's language first.</summary>
    public static IReadOnlyList<Term> Sorted(IEnumerable<Term> terms, string language) =>
    [
        .. terms.GroupBy(t => t.Language.Length > 0 ? t.Language : language, StringComparer.OrdinalIgnoreCase)
            .OrderBy(g => string.Equals(g.Key, language, StringComparison.OrdinalIgnoreCase) ? "" : g.Key, StringComparer.OrdinalIgnoreCase)
            .SelectMany(g => g.OrderBy(t => t.Word, LanguageTag.Collation(g.Key)))
    ];

    /// <summary>
    /// Adds terms to a list. A word that is there already (in the same language, whatever its capitals) is filled up: its empty
    /// fields take what the new one says, and nothing typed before is changed.
    /// </summary>
    public static IReadOnlyList<Term> Merge(IReadOnlyList<Term> terms, IReadOnlyList<Term> added)
    {
        var merged = terms.ToList();
        foreach (var term in added)
        {
            var at = merged.FindIndex(t => string.Equals(t.Word, term.Word, StringComparison.OrdinalIgnoreCase)
                && (t.Language.Length == 0 || term.Language.Length == 0
                    || string.Equals(t.Language, term.Language, StringComparison.OrdinalIgnoreCase)));
            if (at < 0)
            {
                merged.Add(term);
            }
            else
            {
                merged[at] = Fill(merged[at], term);
            }
        }

        return merged;
    }

    /// <summary>What became of terms that were brought in, for the teacher.</summary>
    /// <param name="before">The list before.</param>
    /// <param name="after">The list with them.</param>
    /// <param name="brought">How many were brought in.</param>
    public static string Account(IReadOnlyList<Term> before, IReadOnlyList<Term> after, int brought)
    {
        var added = after.Count - before.Count;
        var filled = before.Zip(after).Count(p => p.First != p.Second && !Same(p.First, p.Second));
        var there = brought - added - filled;
        string[] parts = [.. new[] { $"{added} new", filled > 0 ? $"{filled} filled up" : "", there > 0 ? $"{there} there already" : "" }.Where(
            p => p.Length > 0)];
        return $"{brought} {(brought == 1 ? "word" : "words")} taken in: {string.Join(", ", parts)}";
    }

    private static bool Same(Term a, Term b) =>
        a with { Translations = [] } == b with { Translations = [] } && a.Translations.SequenceEqual(b.Translations);

    private static Term Fill(Term term, Term more)
    {
        static string Or(string text, string other) => text.Length > 0 ? text : other;
        return term with
        {
            Reading = Or(term.Reading, more.Reading),
            Meaning = Or(term.Meaning, more.Meaning),
            Language = Or(term.Language, more.Language),
            PartOfSpeech = Or(term.PartOfSpeech, more.PartOfSpeech),
            Example = Or(term.Example, more.Example),
            Parts = Or(term.Parts, more.Parts),
            Synonym = Or(term.Synonym, more.Synonym),
            ConfusedWith = Or(term.ConfusedWith, more.ConfusedWith),
            MemoryAid = Or(term.MemoryAid, more.MemoryAid),
            Translations = [.. term.Translations.Concat(more.Translations).DistinctBy(t => (t.Language.ToUpperInvariant(), t.Text))],
        };
    }
}
