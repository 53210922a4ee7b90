using System.Globalization;
using ArchTalk.Core.Lessons;
using CsvHelper;
using CsvHelper.Configuration;

namespace ArchTalk.Core.Formats;

/// <summary>A table before it is taken in: what each column seems to hold, and its first rows.</summary>
/// <param name="HasHeader">Whether the first row names the columns.</param>
/// <param name="Columns">The name of what each column holds (see <see cref="TermTable.Names"/>), or empty for what isn't known.</param>
/// <param name="Sample">The first rows, with the header.</param>
/// <param name="Rows">How many there are, without the header.</param>
public sealed record TableLook(bool HasHeader, IReadOnlyList<string> Columns, IReadOnlyList<IReadOnlyList<string>> Sample, int Rows);

/// <summary>
/// The vocabulary as a table: CSV (RFC 4180) and tab-separated values, as spreadsheets write, read and paste them. The first row
/// names the columns, in any order; without it two columns are word and meaning, three are word, reading and meaning, unless it is said
/// what each holds.
/// </summary>
public static class TermTable
{
    private const string TranslationPrefix = "translation ";
    private const int SampleRows = 6;

    // Other names that people and programs give to columns.
    private static readonly Dictionary<string, string> Aliases = new(StringComparer.Ordinal)
    {
        ["term"] = "word",
        ["vocabulary"] = "word",
        ["expression"] = "word",
        ["definition"] = "meaning",
        ["explanation"] = "meaning",
        ["pronunciation"] = "reading",
        ["said"] = "reading",
        ["ipa"] = "reading",
        ["lang"] = "language",
        ["sentence"] = "example",
        ["pos"] = "part of speech",
        ["parts"] = "word parts",
        ["synonyms"] = "synonym",
        ["hint"] = "memory aid",
    };

    // Every column there is, and a translation into as many languages as a term can have.
    private const int MostColumns = 11 + LessonRules.MostTranslations;

    private static readonly (string Name, Func<Term, string> Get, Func<Term, string, Term> Set)[] Columns =
    [
        ("word", t => t.Word, (t, v) => t with { Word = v }),
        ("language", t => t.Language, (t, v) => t with { Language = v }),
        ("reading", t => t.Reading, (t, v) => t with { Reading = v }),
        ("part of speech", t => t.PartOfSpeech, (t, v) => t with { PartOfSpeech = v }),
        ("meaning", t => t.Meaning, (t, v) => t with { Meaning = v }),
        ("example", t => t.Example, (t, v) => t with { Example = v }),
        ("word parts", t => t.Parts, (t, v) => t with { Parts = v }),
        ("synonym", t => t.Synonym, (t, v) => t with { Synonym = v }),
        ("confused with", t => t.ConfusedWith, (t, v) => t with { ConfusedWith = v }),
        ("memory aid", t => t.MemoryAid, (t, v) => t with { MemoryAid = v }),
        ("status", t => t.Status, (t, v) => t with { Status = v }),
    ];

    /// <summary>What a column can hold; beside these a translation: "translation fr".</summary>
    public static IReadOnlyList<string> Names { get; } = [.. Columns.Select(c => c.Name)];

    /// <summary>Looks at a table without taking it in.</summary>
    public static Checked<TableLook> Look(string text)
    {
        var (rows, fault) = Rows(text);
        if (fault is not null)
        {
            return fault;
        }

        var header = Header(rows![0]);
        var width = rows.Max(r => r.Length);
        var columns = Enumerable.Range(0, width)
            .Select(i => header is not null ? Known(header.ElementAtOrDefault(i) ?? "") : Unnamed(width).ElementAtOrDefault(i) ?? "");
        return new Checked<TableLook>(
            new TableLook(header is not null, [.. columns], [.. rows.Take(SampleRows)], rows.Count - (header is null ? 0 : 1)),
            null);
    }

    /// <summary>Writes all columns, and one for each language of the translations ("translation fr").</summary>
    /// <param name="delimiter">A comma or a tab.</param>
    public static string Write(IReadOnlyList<Term> terms, char delimiter)
    {
        var languages = terms.SelectMany(t => t.Translations).Select(t => t.Language).Distinct(StringComparer.OrdinalIgnoreCase).ToArray();
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, Settings(delimiter), leaveOpen: true))
        {
            WriteRow(csv, [.. Columns.Select(c => c.Name), .. languages.Select(l => TranslationPrefix + l)]);
            foreach (var term in terms)
            {
                WriteRow(csv, [.. Columns.Select(c => c.Get(term)), .. languages.Select(l => TranslationOf(term, l))]);
            }
        }

        return text.ToString();
    }

    /// <summary>Reads a table whose delimiter (tab, semicolon or comma) is found by its first row.</summary>
    /// <param name="columns">What each column holds, empty for what isn't taken in; null to find it by the first row.</param>
    /// <param name="hasHeader">With columns: whether the first row names them.</param>
    public static Checked<IReadOnlyList<Term>> Read(string text, Func<Guid> newId, IReadOnlyList<string>? columns = null, bool hasHeader = false)
    {
        var (rows, fault) = Rows(text);
        if (fault is not null)
        {
            return fault;
        }

        var header = columns is null ? Header(rows![0]) : [.. columns];
        if (header is not null && !header.Contains("word", StringComparer.Ordinal))
        {
            return "No column holds the words. Say which one does.";
        }

        var terms = rows!.Skip(columns is null ? (header is null ? 0 : 1) : hasHeader ? 1 : 0)
            .Select(r => Read(r, header ?? Unnamed(r.Length), newId()))
            .Where(t => t.Word.Length > 0)
            .ToArray();
        return terms.Length == 0
            ? "No words were found in the table. Its first column, or the one named “word”, should hold them."
            : new Checked<IReadOnlyList<Term>>(terms, null);
    }

    private static Checked<IReadOnlyList<string[]>> Rows(string text)
    {
        List<string[]> rows;
        try
        {
            rows = Split(text.TrimStart('﻿'));
        }
        catch (CsvHelperException e)
        {
            return $"The table can't be read: a quotation mark isn't closed near row {e.Context?.Parser?.Row ?? 1}. Save it again "
                + "from the spreadsheet.";
        }

        if (rows.Count == 0)
        {
            return "The table is empty. Copy the rows with the words in them.";
        }

        if (rows.Count > LessonRules.MostEntries + 1 || rows.Max(r => r.Length) > MostColumns)
        {
            return $"The table has {rows.Count} rows and {rows.Max(r => r.Length)} columns; at most {LessonRules.MostEntries} words and "
                + $"{MostColumns} columns are taken in. Divide it.";
        }

        return new Checked<IReadOnlyList<string[]>>(rows, null);
    }

    private static List<string[]> Split(string text)
    {
        var first = text.Split('\n', 2)[0];
        var delimiter = first.Contains('\t', StringComparison.Ordinal) ? '\t' : first.Count(c => c == ';') > first.Count(c => c == ',') ? ';' : ',';
        using var reader = new StringReader(text);
        using var parser = new CsvParser(reader, Settings(delimiter));
        var rows = new List<string[]>();
        while (parser.Read())
        {
            if (parser.Record is { } record && record.Any(f => !string.IsNullOrWhiteSpace(f)))
            {
                rows.Add([.. record.Select(f => Unescaped(f.Trim()))]);
            }
        }

        return rows;
    }

    // What the writer puts before a cell that a spreadsheet would take for a formula.
    private static string Unescaped(string field) => field is ['\'', '=' or '@' or '+' or '-', ..] ? field[1..] : field;

    private static string[]? Header(string[] row)
    {
        string[] names = [.. row.Select(f => f.ToLowerInvariant()).Select(n => Aliases.GetValueOrDefault(n, n))];
        return names.Contains("word", StringComparer.Ordinal) ? names : null;
    }

    private static string Known(string name) =>
        Names.Contains(name, StringComparer.Ordinal) || name.StartsWith(TranslationPrefix, StringComparison.Ordinal) ? name : "";

    private static string[] Unnamed(int columns) => columns <= 2 ? ["word", "meaning"] : ["word", "reading", "meaning"];

    private static Term Read(string[] row, string[] header, Guid id)
    {
        var term = new Term(id, "", "", "", "");
        for (var i = 0; i < Math.Min(row.Length, header.Length); i++)
        {
            if (row[i].Length == 0)
            {
                continue;
            }

            if (Array.Find(Columns, c => c.Name == header[i]) is { Set: not null } column)
            {
                term = column.Set(term, row[i]);
            }
            else if (header[i].StartsWith(TranslationPrefix, StringComparison.Ordinal))
            {
                var language = header[i][TranslationPrefix.Length..].Trim('(', ')', ' ');
                term = term with { Translations = [.. term.Translations, new Translation(language, row[i])] };
            }
        }

        return term;
    }

    private static string TranslationOf(Term term, string language) =>
        string.Join("; ", term.Translations.Where(t => string.Equals(t.Language, language, StringComparison.OrdinalIgnoreCase)).Select(t => t.Text));

    private static void WriteRow(CsvWriter csv, IEnumerable<string> fields)
    {
        foreach (var field in fields)
        {
            csv.WriteField(field);
        }

        csv.NextRecord();
    }

    private static CsvConfiguration Settings(char delimiter) => new(CultureInfo.InvariantCulture)
    {
        Delimiter = delimiter.ToString(),
        HasHeaderRecord = false,

        // A spreadsheet would run a cell that begins with = as a formula; escaping keeps it text.
        InjectionOptions = InjectionOptions.Escape,
    };
}
