using System.Text.Json;
using ArchTalk.Core.Recording;
using ArchTalk.Core.Time;
using ArchTalk.Web.Recording;
using SkiaSharp;

namespace ArchTalk.Web.Tests;

/// <summary>Files made for tests.</summary>
internal static class Samples
{
    public static byte[] Picture(int width = 320, int height = 180, SKColor? color = null)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(color ?? SKColors.Beige);
        using var image = SKImage.FromBitmap(bitmap);
        return image.Encode(SKEncodedImageFormat.Png, 100).ToArray();
    }

    public static byte[] Pdf(int pages)
    {
        using var stream = new MemoryStream();
        using (var document = SKDocument.CreatePdf(stream))
        {
            for (var i = 0; i < pages; i++)
            {
                using var canvas = document.BeginPage(320, 180);
                canvas.DrawRect(10, 10, 50, 50, new SKPaint { Color = SKColors.Brown });
                document.EndPage();
            }

            document.Close();
        }

        return stream.ToArray();
    }

    /// <summary>A PDF of one page that is nothing but a picture of a heading, as a scanner makes it; two pages wide when asked for.</summary>
    public static byte[] ScannedPdf(bool isDouble = false)
    {
        using var face = SKTypeface.FromFile("/usr/share/fonts/truetype/noto/NotoSans-Regular.ttf");
        using var font = new SKFont(face, 60);
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        using var picture = new SKBitmap(isDouble ? 2000 : 1000, 700);
        using (var canvas = new SKCanvas(picture))
        {
            canvas.Clear(SKColors.White);
            canvas.DrawText("The keystone", 150, 200, SKTextAlign.Left, font, ink);
            if (isDouble)
            {
                canvas.DrawText("The abutment", 1150, 200, SKTextAlign.Left, font, ink);
            }
        }

        using var stream = new MemoryStream();
        using (var document = SKDocument.CreatePdf(stream))
        {
            using var canvas = document.BeginPage(picture.Width / 2f, 350);
            using var image = SKImage.FromBitmap(picture);
            canvas.DrawImage(image, new SKRect(0, 0, picture.Width / 2f, 350), new SKSamplingOptions(SKFilterMode.Linear));
            document.EndPage();
            document.Close();
        }

        return stream.ToArray();
    }

    /// <summary>Records two seconds: a stroke, the pointer, a moved view, the second board.</summary>
    public static async Task RecordAsync(App app, Client teacher, Guid lesson)
    {
        var boards = (await teacher.CallAsync(HttpMethod.Get, $"/api/lessons/{lesson}/boards")).GetProperty("boards").EnumerateArray()
            .Select(b => b.GetProperty("id").GetGuid())
            .ToArray();
        using var started = await teacher.SendAsync(HttpMethod.Post, $"/api/lessons/{lesson}/takes");
        var take = JsonSerializer.Deserialize<OpenTake>(await started.Content.ReadAsStringAsync(), JsonSerializerOptions.Web)!;
        var journal = new JournalBuilder().Segment(new SegmentStart(0, 48_000, 0, "Test", false, false, false)).Audio(0, 0, new short[96_000])
            .Anchors(0, new ClockAnchor(0, 0), new ClockAnchor(96_000, 2000))
            .Events(0,
            [
                new BoardShown(0, boards[0]), new StrokeBegun(1, boards[0], "pen", "blue", "medium"), new StrokePoints(
                    1,
                    [100, 100, 128, 2000, 5000, 3000, 200, 6000]),
                new StrokeEnded(1, 600), new PointerMoved(boards[0], [400, 400, 7000, 900, 500, 8000]), new PointerAway(900),
                new ViewMoved(1000, boards[0], [1000, 1000, 8000]), new BoardShown(1500, boards[1]),
            ]).End();
        using var http = app.CreateClient();
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/takes/{take.Take}/records")
        {
            Content = new ByteArrayContent([.. journal.Records.SelectMany(r => r.ToBytes())])
        };
        request.Headers.Add("X-Take-Token", take.Token);
        (await http.SendAsync(request)).EnsureSuccessStatusCode();
    }
}
