using System.Text;

namespace ArchTalk.Media;

/// <summary>What a file is, judged by its first bytes and never by its name.</summary>
public enum FileKind
{
    Unknown = 0,
    Empty = 1,
    Pdf = 2,
    Png = 3,
    Jpeg = 4,
    WebP = 5,
    Svg = 6,

    /// <summary>A zip archive, which may be a deck.</summary>
    Archive = 7,

    /// <summary>A compound file: an old binary document, or a new one behind a password.</summary>
    Compound = 8,

    /// <summary>A film or a sound.</summary>
    Clip = 9,

    /// <summary>A picture as telephones take it: HEIC or AVIF, in the box of an MP4.</summary>
    Heif = 10,
}

/// <summary>Recognises the files that can become boards.</summary>
public static class FileKinds
{
    /// <summary>Enough bytes to recognise any kind.</summary>
    public const int Needed = 4096;

    // Readers accept a PDF header within the first 1024 bytes (ISO 32000-1, Annex H.3.4.1, from memory).
    private const int PdfHeader = 1024;

    /// <summary>Reads the beginning of a file and says what it is.</summary>
    public static async Task<FileKind> OfAsync(string file, CancellationToken cancel)
    {
        var start = new byte[Needed];
        await using var stream = File.OpenRead(file);
        var length = await stream.ReadAtLeastAsync(start, start.Length, throwOnEndOfStream: false, cancel);
        return Of(start.AsSpan(0, length));
    }

    /// <summary>ffmpeg's name of the form of a film or sound, by its first bytes; null when it is neither.</summary>
    public static async Task<string?> DemuxerAsync(string file, CancellationToken cancel)
    {
        var start = new byte[Needed];
        await using var stream = File.OpenRead(file);
        return Demuxer(start.AsSpan(0, await stream.ReadAtLeastAsync(start, start.Length, throwOnEndOfStream: false, cancel)));
    }

    public static FileKind Of(ReadOnlySpan<byte> start)
    {
        if (start.IsEmpty)
        {
            return FileKind.Empty;
        }

        if (start is [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, ..])
        {
            return FileKind.Png;
        }

        if (start is [0xFF, 0xD8, 0xFF, ..])
        {
            return FileKind.Jpeg;
        }

        if (Riff(start, "WEBP"u8))
        {
            return FileKind.WebP;
        }

        if (start is [0x50, 0x4B, 0x03, 0x04, ..])
        {
            return FileKind.Archive;
        }

        if (start is [0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1, ..])
        {
            return FileKind.Compound;
        }

        if (IsHeif(start))
        {
            return FileKind.Heif;
        }

        if (Demuxer(start) is not null)
        {
            return FileKind.Clip;
        }

        return start[..Math.Min(start.Length, PdfHeader)].IndexOf("%PDF-"u8) >= 0 ? FileKind.Pdf
            : LooksLikeSvg(Encoding.UTF8.GetString(start)) ? FileKind.Svg
            : FileKind.Unknown;
    }

    /// <summary>Why a file of no known kind can't be used, and what to do.</summary>
    public static string Refusal(FileKind kind) => kind == FileKind.Empty
        ? "The file is empty. It may not have been saved or copied completely; try it again from where it came."
        : "It is not a PDF, not a PPTX or ODP deck, not a PNG, JPEG, WebP, HEIC, AVIF or SVG picture, and not a film or sound, whatever its name "
            + "says. Save or export it as one of these and add it again.";

    // MP4 and its kin, Matroska and WebM, Ogg, FLAC, WAV, AVI, and MP3 with or without a tag (magic numbers from memory).
    private static string? Demuxer(ReadOnlySpan<byte> start) =>
        IsHeif(start) ? null
        : start.Length > 12 && start[4..8].SequenceEqual("ftyp"u8) ? "mov"
        : start is [0x1A, 0x45, 0xDF, 0xA3, ..] ? "matroska"
        : start.StartsWith("OggS"u8) ? "ogg"
        : start.StartsWith("fLaC"u8) ? "flac"
        : Riff(start, "WAVE"u8) ? "wav"
        : Riff(start, "AVI "u8) ? "avi"
        : start.StartsWith("ID3"u8) || start is [0xFF, 0xFB or 0xF3 or 0xF2, ..] ? "mp3"
        : null;

    // The brands of pictures (ISO/IEC 23008-12 and AV1 Image File Format, from memory), as main brand or, behind "mif1", among the others.
    private static bool IsHeif(ReadOnlySpan<byte> start)
    {
        if (start.Length < 16 || !start[4..8].SequenceEqual("ftyp"u8))
        {
            return false;
        }

        return Encoding.ASCII
            .GetString(start[8..12]) is "heic" or "heix" or "heim" or "heis" or "hevc" or "hevx" or "avif" or "avis" or "mif1" or "msf1";
    }

    private static bool Riff(ReadOnlySpan<byte> start, ReadOnlySpan<byte> kind) =>
        start.Length >= 12 && start.StartsWith("RIFF"u8) && start[8..12].SequenceEqual(kind);

    private static bool LooksLikeSvg(string start)
    {
        var text = start.TrimStart('﻿', ' ', '\t', '\r', '\n');
        return text.StartsWith('<') && text.Contains("<svg", StringComparison.Ordinal);
    }
}
