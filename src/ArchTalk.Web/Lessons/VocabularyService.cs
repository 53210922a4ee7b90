using System.Text;
using System.Text.Json;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Formats;
using ArchTalk.Core.Lessons;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Queries;
using ArchTalk.Web.Setup;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Lessons;

/// <summary>A term that an earlier lesson of the unit has.</summary>
public sealed record EarlierTerm(string Lesson, Term Term);

/// <summary>The vocabulary after words were brought in.</summary>
/// <param name="Said">What became of them.</param>
public sealed record TermsView(
    JsonElement Content,
    int Version,
    bool CanUndo,
    bool CanRedo,
    string Said) : SectionView(Content, Version, CanUndo, CanRedo);

/// <summary>Where a term is shown.</summary>
public sealed record TermPlaceView(Guid TermId, Guid BoardId, string Board, int Number);

/// <summary>What is done with a lesson's vocabulary as a whole.</summary>
public sealed class VocabularyService(ArchTalkDb db, SectionService sections)
{
    /// <summary>Adds terms typed one a line, or cells pasted from a spreadsheet.</summary>
    /// <exception cref="Refusal">Nothing can be read in it, or another window saved in between.</exception>
    public async Task<TermsView> AddAsync(Guid lesson, string text, int version, CancellationToken cancel)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            throw new Refusal("There is nothing to add yet. Type a word on each line.");
        }

        var terms = text.Contains('\t', StringComparison.Ordinal)
            ? Passed(TermTable.Read(text, Guid.CreateVersion7))
            : QuickTerms.Read(text, "", Guid.CreateVersion7);
        return await MergeAsync(lesson, terms, version, cancel);
    }

    /// <summary>Adds the terms of a CSV, TSV or TBX file; what it is, is seen by its content.</summary>
    /// <param name="columns">For a table: what each column holds; null to find it by the first row.</param>
    /// <param name="hasHeader">With columns: whether the first row names them.</param>
    /// <exception cref="Refusal">It can't be read, or another window saved in between.</exception>
    public async Task<TermsView> ImportAsync(
        Guid lesson,
        string file,
        int version,
        IReadOnlyList<string>? columns,
        bool hasHeader,
        CancellationToken cancel)
    {
        var text = await TextAsync(file, cancel);
        var language = (await sections.DetailsAsync(lesson, cancel)).Language;
        var read = IsTbx(text)
            ? Tbx.Read(new MemoryStream(Encoding.UTF8.GetBytes(text)), language, Guid.CreateVersion7)
            : TermTable.Read(text, Guid.CreateVersion7, columns, hasHeader);
        return await MergeAsync(lesson, Passed(read), version, cancel);
    }

    /// <summary>Looks at a file before it is taken in; null for one that says itself what its parts are (TBX).</summary>
    /// <exception cref="Refusal">It can't be read.</exception>
    public static async Task<TableLook?> LookAsync(string file, CancellationToken cancel)
    {
        var text = await TextAsync(file, cancel);
        var (look, fault) = IsTbx(text) ? default((TableLook?, string?)) : TermTable.Look(text) is var found ? (found.Value, found.Fault) : default;
        return fault is not null ? throw new Refusal(fault) : look;
    }

    private static bool IsTbx(string text) => text.TrimStart('﻿', ' ', '\r', '\n').StartsWith('<');

    private static async Task<string> TextAsync(string file, CancellationToken cancel)
    {
        var bytes = await File.ReadAllBytesAsync(file, cancel);
        if (bytes.Length == 0)
        {
            throw new Refusal("The file is empty. Nothing was changed.");
        }

        try
        {
            return new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes);
        }
        catch (DecoderFallbackException e)
        {
            throw new Refusal(
                "The file isn't a text in UTF-8. Save it from the spreadsheet as “CSV UTF-8”, or copy the cells and paste them here.",
                e);
        }
    }

    public async Task<SectionView> SortAsync(Guid lesson, int version, CancellationToken cancel)
    {
        var language = (await sections.DetailsAsync(lesson, cancel)).Language;
        return await SaveAsync(lesson, TermLists.Sorted(await sections.TermsAsync(lesson, cancel), language), version, cancel);
    }

    public async Task<string> TableAsync(Guid lesson, char delimiter, CancellationToken cancel) =>
        TermTable.Write(await sections.TermsAsync(lesson, cancel), delimiter);

    public async Task<byte[]> TbxAsync(Guid lesson, CancellationToken cancel)
    {
        var title = await db.Lessons.Where(l => l.Id == lesson).Select(l => l.Title).SingleAsync(cancel);
        var document = Tbx.Write(title, (await sections.DetailsAsync(lesson, cancel)).Language, await sections.TermsAsync(lesson, cancel));
        using var stream = new MemoryStream();
        await document.SaveAsync(stream, System.Xml.Linq.SaveOptions.None, cancel);
        return stream.ToArray();
    }

    /// <summary>The vocabulary of the lessons before this one in its unit, the nearest first.</summary>
    public async Task<IReadOnlyList<EarlierTerm>> EarlierAsync(Guid lesson, CancellationToken cancel)
    {
        var own = await db.Lessons.AsNoTracking().SingleAsync(l => l.Id == lesson, cancel);
        if (own.UnitId is null)
        {
            return [];
        }

        var earlier = await db.Lessons.AsNoTracking()
            .Where(l => l.UnitId == own.UnitId && l.TeacherId == own.TeacherId && l.DeletedAt == null && l.Id != lesson && l.Order < own.Order)
            .OrderByDescending(l => l.Order).ToListAsync(cancel);
        var terms = await sections.TermsAsync([.. earlier.Select(l => l.Id)], cancel);
        return [.. earlier.SelectMany(l => terms[l.Id].Select(t => new EarlierTerm(l.Title, t)))];
    }

    public async Task<IReadOnlyList<TermPlaceView>> PlacesAsync(Guid lesson, CancellationToken cancel)
    {
        var items = await sections.ItemsAsync(lesson, cancel);
        var boards = await db.Boards.InLesson(lesson).AsNoTracking().Select(b => new { b.Id, b.Title }).ToListAsync(cancel);
        var places = LabelSet.Places(boards.Where(b => items.ContainsKey(b.Id)).Select(b => (b.Id, items[b.Id])));
        return [.. places.Select(p =>
        {
            var number = boards.FindIndex(b => b.Id == p.BoardId);
            return new TermPlaceView(p.TermId, p.BoardId, boards[number].Title, number + 1);
        }).DistinctBy(p => (p.TermId, p.BoardId))];
    }

    private async Task<TermsView> MergeAsync(Guid lesson, IReadOnlyList<Term> terms, int version, CancellationToken cancel)
    {
        var before = await sections.TermsAsync(lesson, cancel);
        var after = TermLists.Merge(before, terms);
        var view = await SaveAsync(lesson, after, version, cancel);
        return new TermsView(view.Content, view.Version, view.CanUndo, view.CanRedo, TermLists.Account(before, after, terms.Count));
    }

    private Task<SectionView> SaveAsync(Guid lesson, IReadOnlyList<Term> terms, int version, CancellationToken cancel) =>
        sections.SaveAsync(new(lesson, SectionKind.Terms), JsonSerializer.SerializeToElement(terms, SectionService.Json), version, cancel);

    private static IReadOnlyList<Term> Passed(Checked<IReadOnlyList<Term>> read) => read.Fault is { } fault ? throw new Refusal(fault) : read.Value!;
}
