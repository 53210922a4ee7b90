using System.Runtime.InteropServices;
using ArchTalk.Browser.Tests.Support;

namespace ArchTalk.Bench;

/// <summary>
/// How long a retake takes thirty minutes into a take: from the press until the boards are back and the last words are being played.
/// Asked: 400 ms.
/// </summary>
internal static class RetakeBench
{
    private const int Minutes = 30;
    private const int Times = 9;

    // From the press to the page's own state; looked at in every frame.
    private const string Press =
        """
        const done = arguments[0];
        const page = document.querySelector('.record')._x_dataStack[0];
        const button = [...document.querySelectorAll('button')].find((b) => b.offsetParent && b.textContent.trim() === 'Retake');
        const begun = performance.now();
        button.click();
        const look = () => page.view.retake?.stage === 'hearing' ? done(performance.now() - begun) : requestAnimationFrame(look);
        look();
        """;

    public static async Task RunAsync()
    {
        using var files = new TestFiles();
        await using var server = await Server.StartedAsync(files.Path("data"));
        using var teacher = await TeacherAtWork.FirstAsync(server);
        var lesson = await teacher.CreateLessonAsync("Long");
        var speech = await TestFiles.Voice.DecodeAsync(await files.SpeechAsync(), CancellationToken.None);
        await File.WriteAllBytesAsync(files.Path("speech.raw"), MemoryMarshal.AsBytes<short>(speech).ToArray());
        await teacher.RecordAsync(lesson, files.Path("speech.raw"), Minutes * 60, ends: false);

        using var browser = new Chromium(files.Path("microphone.wav"));
        browser.SignIn(server.Address, "ida@example.org", "a long password");
        browser.Go($"{server.Address}/lessons/{lesson:N}/record");
        var session = new TeacherSession(browser, server.Address);
        browser.Until(() => browser.Script<bool>("return document.querySelector('[x-cloak]') === null"), "the page's script");
        browser.Click("Use a microphone");
        session.CountFrom(0);
        browser.Click("Go on with it");
        browser.Until(session.IsRecording, "the take going on", 60);
        var times = new List<double>();
        for (var i = 0; i < Times; i++)
        {
            session.UntilRecorded(session.RecordedSeconds() + 4, 90);
            times.Add(browser.ScriptAsync<double>(Press));
            browser.Until(session.IsRecording, "the take going on again", 30);
        }

        Measure.Say($"Retake ready {Minutes} minutes in, {Times} times: median {Measure.Median(times):0} ms, most {times.Max():0} ms");
    }
}
