using ArchTalk.Core.Boards;
using ArchTalk.Core.Boards.Drawings;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using SkiaSharp;

namespace ArchTalk.Reader.Painting;

/// <summary>What lies under the marks of a board.</summary>
/// <param name="Picture">The board's picture as a PNG, JPEG or WebP file that fills its width; null for a board without one.</param>
/// <param name="Items">Over the picture and under the ink, from back to front.</param>
public sealed record BoardGround(byte[]? Picture, IReadOnlyList<PlacedDrawing> Items);

/// <summary>
/// Draws scenes as pictures: what students see at a moment. It holds no rules, like the pages' painter (Client/ink), and agrees with it.
/// Boards' pictures come from what was uploaded, so it runs where the readers do.
/// </summary>
/// <param name="picture">The file of a picture that lies on a board, by the name its drawing gives; null when there is none.</param>
public sealed class ScenePainter(string fonts, Func<string, byte[]?> picture) : IDisposable
{
    // The pointer's radius as a share of what is seen, and on small pictures never less than so many pixels.
    private const double PointerShare = 0.0047;
    private const double LeastPointer = 6;
    private static readonly SKColor PointerColor = SKColor.Parse("#B3261E");
    private static readonly SKColor Dark = new(20, 28, 29, 158);
    private static readonly SKSamplingOptions Smooth = new(SKFilterMode.Linear, SKMipmapMode.Linear);

    private readonly Lettering lettering = new(fonts);

    /// <summary>Draws a pane of the scene at a time.</summary>
    /// <param name="width">In pixels; the picture is 16:9.</param>
    /// <param name="ground">Of the pane's board.</param>
    public SKBitmap Paint(LessonTimeline timeline, Pane pane, LessonTime time, BoardGround ground, int width)
    {
        var bitmap = new SKBitmap(width, width * 9 / 16, SKColorType.Rgba8888, SKAlphaType.Premul);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.White);
        var scale = (float)width / pane.View.Width;
        canvas.Translate(-MathF.Round(pane.View.X * scale), -MathF.Round(pane.View.Y * scale));
        canvas.Scale(scale);
        canvas.Save();
        canvas.Scale(10);
        PaintGround(canvas, pane, ground);
        foreach (var text in pane.Texts)
        {
            PaintTyped(canvas, timeline.Boards[pane.Board].Texts[text.Index], text.Letters);
        }

        canvas.Restore();
        foreach (var (index, points) in pane.Strokes)
        {
            PaintStroke(canvas, timeline.Boards[pane.Board].Strokes[index], points, time);
        }

        PaintLight(canvas, pane);
        PaintPointer(canvas, timeline, pane, time, scale);
        return bitmap;
    }

    public void Dispose() => lettering.Dispose();

    private void PaintGround(SKCanvas canvas, Pane pane, BoardGround ground)
    {
        if (ground.Picture is { } file && SKImage.FromEncodedData(file) is { } image)
        {
            using (image)
            {
                var height = (float)image.Height * Board.Width / image.Width;
                canvas.Save();
                canvas.ClipRect(new SKRect(0, 0, Board.Width, Math.Min(height, pane.Height)));
                canvas.DrawImage(image, new SKRect(0, 0, Board.Width, height), Smooth);
                canvas.Restore();
            }
        }

        foreach (var item in ground.Items.Where(i => !pane.Hidden.Contains(i.Id)))
        {
            canvas.Save();
            canvas.Translate((float)item.X, (float)item.Y);
            foreach (var shape in item.Drawing.Shapes)
            {
                PaintShape(canvas, shape);
            }

            canvas.Restore();
        }
    }

    private void PaintShape(SKCanvas canvas, Shape shape)
    {
        switch (shape)
        {
            case PathShape path:
                PaintPath(canvas, path);
                break;
            case TextShape text:
                lettering.Draw(canvas, text);
                break;
            case PictureShape shown:
                PaintPicture(canvas, shown);
                break;
        }
    }

    private static void PaintPath(SKCanvas canvas, PathShape shape)
    {
        using var outline = SKPath.ParseSvgPathData(shape.D);
        canvas.Save();
        if (shape.Transform is [var a, var b, var c, var d, var e, var f])
        {
            canvas.Concat(new SKMatrix((float)a, (float)c, (float)e, (float)b, (float)d, (float)f, 0, 0, 1));
        }

        if (shape.Fill is { } fill)
        {
            using var paint = new SKPaint { Color = SKColor.Parse(fill), IsAntialias = true };
            canvas.DrawPath(outline, paint);
        }

        if (shape.Stroke is { } stroke)
        {
            using var dash = shape.Dash > 0 ? SKPathEffect.CreateDash([(float)shape.Dash, (float)shape.Dash], 0) : null;
            using var paint = new SKPaint
            {
                Color = SKColor.Parse(stroke),
                IsAntialias = true,
                IsStroke = true,
                StrokeWidth = (float)shape.StrokeWidth,
                StrokeMiter = 10,
                PathEffect = dash,
            };
            canvas.DrawPath(outline, paint);
        }

        canvas.Restore();
    }

    private void PaintPicture(SKCanvas canvas, PictureShape shape)
    {
        if (picture(shape.Src) is not { } file || SKImage.FromEncodedData(file) is not { } image)
        {
            return;
        }

        using (image)
        {
            var (width, height) = shape.Turn % 2 == 1 ? ((float)shape.Height, (float)shape.Width) : ((float)shape.Width, (float)shape.Height);
            var crop = shape.Crop;
            canvas.Save();
            canvas.Translate((float)shape.Width / 2, (float)shape.Height / 2);
            canvas.RotateDegrees(shape.Turn * 90);
            var part = SKRect.Create(
                (float)crop.X * image.Width, (float)crop.Y * image.Height, (float)crop.Width * image.Width, (float)crop.Height * image.Height);
            canvas.DrawImage(image, part, SKRect.Create(-width / 2, -height / 2, width, height), Smooth);
            canvas.Restore();
        }
    }

    private void PaintTyped(SKCanvas canvas, TimelineText text, Writing letters)
    {
        canvas.Save();
        canvas.Translate(text.X / 10f, text.Y / 10f);
        foreach (var shape in new TextSetter(lettering).Typed(letters, text.Size / 10.0, text.Ink))
        {
            PaintShape(canvas, shape);
        }

        canvas.Restore();
    }

    // A highlighter darkens what is under it, so that writing stays readable through it.
    private static void PaintStroke(SKCanvas canvas, TimelineStroke stroke, int points, LessonTime time)
    {
        var style = InkStyle.All[stroke.Style];
        using var builder = new SKPathBuilder();
        foreach (var part in StrokeOutline.Of(style, stroke.Points, points, stroke.TipAt(time), stroke.Band))
        {
            if (part.IsDisc)
            {
                builder.AddCircle((float)part.Disc.X, (float)part.Disc.Y, (float)part.Disc.Radius);
            }
            else
            {
                builder.AddPoly([.. part.Corners.Select(c => new SKPoint((float)c.X, (float)c.Y))], close: true);
            }
        }

        using var outline = builder.Detach();
        using var paint = new SKPaint
        {
            Color = SKColor.Parse(style.Color),
            IsAntialias = true,
            BlendMode = style.Tool == InkStyle.Highlighter ? SKBlendMode.Multiply : SKBlendMode.SrcOver,
        };
        canvas.DrawPath(outline, paint);
    }

    // All of the board but what is lit up.
    private static void PaintLight(SKCanvas canvas, Pane pane)
    {
        if (pane.Light is not { } light)
        {
            return;
        }

        using var builder = new SKPathBuilder();
        builder.AddPoly([.. light.Outline.Chunk(2).Select(p => new SKPoint(p[0], p[1]))], close: true);
        using var outline = builder.Detach();
        using var paint = new SKPaint { Color = Dark, IsAntialias = true };
        canvas.Save();
        canvas.ClipPath(outline, SKClipOperation.Difference, antialias: true);
        canvas.DrawPaint(paint);
        canvas.Restore();
    }

    private static void PaintPointer(SKCanvas canvas, LessonTimeline timeline, Pane pane, LessonTime time, float scale)
    {
        if (pane.Pointer is not { } place)
        {
            return;
        }

        var radius = (float)Math.Max(pane.View.Width * PointerShare, LeastPointer / scale);
        using var paint = new SKPaint { IsAntialias = true, StrokeCap = SKStrokeCap.Round, StrokeWidth = radius * 0.9f };
        var trail = timeline.PointerAt(time)!.TrailAt(time);
        for (var i = 1; i < trail.Count; i++)
        {
            var (from, to) = (trail[i - 1], trail[i]);
            var alpha = 0.55 * Math.Max(0, 1 - (from.Age / TimelinePointer.Trail.Milliseconds));
            paint.Color = PointerColor.WithAlpha((byte)Math.Round(alpha * 255));
            canvas.DrawLine(from.Place.X, from.Place.Y, to.Place.X, to.Place.Y, paint);
        }

        paint.Color = PointerColor;
        canvas.DrawCircle(place.X, place.Y, radius, paint);
        paint.Color = SKColors.White;
        paint.IsStroke = true;
        paint.StrokeWidth = radius * 0.33f;
        canvas.DrawCircle(place.X, place.Y, radius, paint);
    }
}
