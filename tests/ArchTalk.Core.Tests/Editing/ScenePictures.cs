using ArchTalk.Core.Boards;
using ArchTalk.Core.Ink;
using ArchTalk.Core.Time;
using ArchTalk.Core.Timelines;
using SkiaSharp;

namespace ArchTalk.Core.Tests.Editing;

/// <summary>
/// Pictures of a lesson for the eye: a row of scenes from its beginning to its end, painted from nothing but <see cref="Scene"/>, in
/// the folder joins beside the test program.
/// </summary>
internal static class ScenePictures
{
    private const int Columns = 8;
    private const float Scale = 0.012f;
    private const int Width = 200;
    private const int Height = 130;

    public static void Save(string name, Seen seen)
    {
        using var surface = SKSurface.Create(new SKImageInfo(Columns * Width, Height));
        surface.Canvas.Clear(SKColors.LightGray);
        for (var i = 0; i < Columns; i++)
        {
            surface.Canvas.Save();
            surface.Canvas.Translate((i * Width) + 4, 4);
            Paint(surface.Canvas, seen.Timeline, seen.Timeline.At(LessonTime.FromSeconds(seen.Seconds * i / (Columns - 1))).Panes[0]);
            surface.Canvas.Restore();
        }

        var folder = Directory.CreateDirectory(Path.Combine(AppContext.BaseDirectory, "joins")).FullName;
        using var image = surface.Snapshot();
        using var png = image.Encode(SKEncodedImageFormat.Png, 100);
        File.WriteAllBytes(Path.Combine(folder, name + ".png"), png.ToArray());
    }

    // The board in its colour, the view as a frame, the cover as a box, ink, and the pointer as a dot.
    private static void Paint(SKCanvas canvas, LessonTimeline timeline, Pane pane)
    {
        using var fill = new SKPaint { Color = pane.Board == 0 ? SKColors.White : SKColors.LightYellow };
        using var line = new SKPaint { Style = SKPaintStyle.Stroke, StrokeWidth = 1, Color = SKColors.Gray };
        canvas.Scale(Scale);
        canvas.DrawRect(0, 0, Board.Width * 10, Math.Min(pane.Height, 1000) * 10, fill);
        line.StrokeWidth = 60;
        canvas.DrawRect(pane.View.X, pane.View.Y, pane.View.Width, pane.View.Height, line);
        if (timeline.Boards[pane.Board].Items.Count > 0 && pane.Hidden.Count == 0)
        {
            fill.Color = SKColors.Tan;
            canvas.DrawRect(11_000, 500, 4000, 2500, fill);
        }

        foreach (var visible in pane.Strokes)
        {
            var stroke = timeline.Boards[pane.Board].Strokes[visible.Index];
            line.Color = SKColor.Parse(InkStyle.All[stroke.Style].Color);
            line.StrokeWidth = 300;
            canvas.DrawPoints(
                visible.Points == 1 ? SKPointMode.Points : SKPointMode.Polygon,
                [.. stroke.Points.Take(visible.Points).Select(p => new SKPoint(p.X, p.Y))],
                line);
        }

        if (pane.Pointer is { } pointer)
        {
            fill.Color = SKColors.Red;
            canvas.DrawCircle(pointer.X, pointer.Y, 400, fill);
        }
    }
}
