using System.Globalization;
using System.Runtime.InteropServices;
using System.Text;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using HarfBuzzSharp;
using SkiaSharp;

namespace ArchTalk.Reader.Painting;

/// <summary>Draws lines of writing: letters are looked for in one face after another, shaped by HarfBuzz and drawn by Skia.</summary>
internal sealed class Lettering : ITextMeasure, IDisposable
{
    private readonly ShapedFace[] regular;
    private readonly ShapedFace[] bold;

    /// <param name="fonts">As in <see cref="Faces.Open"/>.</param>
    public Lettering(string fonts)
    {
        regular = [.. Faces.Open(fonts, isBold: false, isWithAsian: true).Select(f => new ShapedFace(f))];
        bold = [.. Faces.Open(fonts, isBold: true, isWithAsian: true).Select(f => new ShapedFace(f))];
    }

    /// <summary>Draws a line of writing on a canvas whose unit is the board unit.</summary>
    public void Draw(SKCanvas canvas, TextShape shape)
    {
        Piece[] pieces = [.. Pieces(shape)];
        var width = pieces.Sum(p => p.Width);
        var x = (float)shape.X - (shape.Anchor switch
        {
            TextShape.Middle => width / 2,
            TextShape.End => shape.IsRightToLeft ? 0 : width,
            _ => shape.IsRightToLeft ? width : 0,
        });
        using var paint = new SKPaint { Color = SKColor.Parse(shape.Fill), IsAntialias = true };
        foreach (var piece in pieces)
        {
            piece.Face.Draw(canvas, piece, x, (float)shape.Y, (float)shape.Size, paint);
            x += piece.Width;
        }
    }

    public double Width(string text, double size, bool isBold) =>
        Pieces(new TextShape(text, 0, 0, size, "", IsBold: isBold)).Sum(p => p.Width);

    public void Dispose()
    {
        foreach (var face in regular.Concat(bold))
        {
            face.Dispose();
        }
    }

    // In each direction's stretch, what one face has.
    private IEnumerable<Piece> Pieces(TextShape shape)
    {
        var faces = shape.IsBold ? bold : regular;
        foreach (var (text, isRightToLeft) in WritingRuns.FromTheLeft(shape.Text, shape.IsRightToLeft))
        {
            var runs = ByFace(faces, text);
            foreach (var (face, run) in isRightToLeft ? Enumerable.Reverse(runs) : runs)
            {
                yield return face.Shape(run, (float)shape.Size, isRightToLeft, shape.Language);
            }
        }
    }

    // Marks and joiners stay with the letter they belong to, and so do spaces: they are in every face.
    private static List<(ShapedFace Face, string Text)> ByFace(ShapedFace[] faces, string text)
    {
        var runs = new List<(ShapedFace Face, string Text)>();
        for (var elements = StringInfo.GetTextElementEnumerator(text); elements.MoveNext();)
        {
            var element = elements.GetTextElement();
            var rune = Rune.GetRuneAt(element, 0);
            var face = runs.Count > 0 && (Rune.IsWhiteSpace(rune) || rune.Value == 0x200D)
                ? runs[^1].Face
                : Array.Find(faces, f => f.Has(rune)) ?? faces[0];
            if (runs.Count > 0 && runs[^1].Face == face)
            {
                runs[^1] = (face, runs[^1].Text + element);
            }
            else
            {
                runs.Add((face, element));
            }
        }

        return runs;
    }

    /// <summary>Letters of one face, shaped.</summary>
    /// <param name="Places">Of each glyph from the beginning of the piece, in board units.</param>
    private sealed record Piece(ShapedFace Face, ushort[] Glyphs, SKPoint[] Places, float Width);

    private sealed class ShapedFace : IDisposable
    {
        // Shaped in large whole numbers and scaled down, so that nothing is rounded to pixels.
        private const int ShapedSize = 2048;

        private readonly SKTypeface typeface;
        private readonly SKFont anySize;
        private readonly Face face;
        private readonly HarfBuzzSharp.Font font;
        private readonly Lock turn = new();

        public ShapedFace(SKTypeface typeface)
        {
            this.typeface = typeface;
            anySize = new SKFont(typeface);

            // By tables: a web font's file is packed, and only Skia unpacks it.
            face = new Face((_, tag) => Table(tag)) { UnitsPerEm = typeface.UnitsPerEm };
            font = new HarfBuzzSharp.Font(face);
            font.SetFunctionsOpenType();
            font.SetScale(ShapedSize, ShapedSize);
        }

        public bool Has(Rune rune) => anySize.ContainsGlyph(rune.Value);

        public Piece Shape(string text, float size, bool isRightToLeft, string? language)
        {
            lock (turn)
            {
                using var buffer = new HarfBuzzSharp.Buffer();
                buffer.AddUtf16(text);
                buffer.GuessSegmentProperties();
                buffer.Direction = isRightToLeft ? Direction.RightToLeft : Direction.LeftToRight;
                if (language is not null)
                {
                    buffer.Language = new Language(language);
                }

                font.Shape(buffer);
                var (infos, positions) = (buffer.GlyphInfos, buffer.GlyphPositions);
                var scale = size / ShapedSize;
                var (glyphs, places) = (new ushort[infos.Length], new SKPoint[infos.Length]);
                var x = 0f;
                for (var i = 0; i < infos.Length; i++)
                {
                    glyphs[i] = (ushort)infos[i].Codepoint;
                    places[i] = new(x + (positions[i].XOffset * scale), -positions[i].YOffset * scale);
                    x += positions[i].XAdvance * scale;
                }

                return new(this, glyphs, places, x);
            }
        }

        public void Draw(SKCanvas canvas, Piece piece, float x, float baseline, float size, SKPaint paint)
        {
            if (piece.Glyphs.Length == 0)
            {
                return;
            }

            using var letters = new SKFont(typeface, size) { Edging = SKFontEdging.Antialias, Hinting = SKFontHinting.None, Subpixel = true };
            using var builder = new SKTextBlobBuilder();
            builder.AddPositionedRun(piece.Glyphs, letters, piece.Places);
            using var blob = builder.Build();
            canvas.DrawText(blob, x, baseline, paint);
        }

        public void Dispose()
        {
            font.Dispose();
            face.Dispose();
            anySize.Dispose();
            typeface.Dispose();
        }

        private Blob? Table(Tag tag)
        {
            if (!typeface.TryGetTableData(tag, out var bytes))
            {
                return null;
            }

            // Copied: Blob.FromStream keeps the address of an array that the garbage collector moves and frees.
            var held = GCHandle.Alloc(bytes, GCHandleType.Pinned);
            try
            {
                return new Blob(held.AddrOfPinnedObject(), bytes.Length, MemoryMode.Duplicate);
            }
            finally
            {
                held.Free();
            }
        }
    }
}
