using System.Net;
using System.Net.Sockets;
using System.Text;
using ArchTalk.Media.Boxes;

namespace ArchTalk.Media.Tests;

/// <summary>What a program can't do in the box, tried by a program that is wholly in the hands of whoever sent the file.</summary>
public sealed class BoxTests : IDisposable
{
    private readonly Samples samples = new();
    private readonly MediaLimits limits = new() { OutputBytes = 8 << 20, OutputFiles = 50 };
    private readonly Kit kit;

    public BoxTests() => kit = new Kit(limits);

    public void Dispose() => samples.Dispose();

    private string Out => Directory.CreateDirectory(samples.Path("out")).FullName;

    private async Task<string> ShellAsync(string script, int seconds = 20, int megabytes = 256, CancellationToken cancel = default)
    {
        using var said = new MemoryStream();
        await File.WriteAllTextAsync(samples.Path("input.txt"), "the input", cancel);
        await kit.Box.RunAsync(
            new BoxedProgram("sh", _ => ["-c", script], TimeSpan.FromSeconds(seconds))
            {
                Inputs = [samples.Path("input.txt")],
                Output = Out,
                MemoryMegabytes = megabytes,
                Said = Box.Collect(said),
            }, cancel);
        return Encoding.UTF8.GetString(said.ToArray());
    }

    private Task<ProgramStoppedException> StoppedAsync(string script, int seconds = 20) =>
        Should.ThrowAsync<ProgramStoppedException>(() => ShellAsync(script, seconds));

    [Fact]
    public async Task It_sees_its_input_its_output_the_system_and_nothing_else()
    {
        await File.WriteAllTextAsync(samples.Path("secret.txt"), "canary");
        (await ShellAsync("cat /in/0/input.txt; echo written > /out/result")).ShouldBe("the input");
        (await File.ReadAllTextAsync(Path.Combine(Out, "result"))).ShouldBe("written\n");

        var seen = await ShellAsync($"ls -a / /in /in/0 /home /root /tmp /etc /var 2>/dev/null; cat {samples.Path("secret.txt")} /etc/passwd "
            + $"/etc/shadow /proc/1/environ; ls /proc; env; true");
        seen.ShouldNotContain("canary");
        seen.ShouldNotContain("root:");
        seen.ShouldNotContain("archtalk-media-");
        seen.ShouldNotContain("DOTNET_ROOT");

        // Processes have numbers of their own: the shell, what it runs, and the box itself.
        seen.Split('\n').Count(l => int.TryParse(l, out _)).ShouldBeLessThan(6);
        (await Should.ThrowAsync<MediaException>(() => ShellAsync("echo x > /in/0/input.txt"))).Message.ShouldContain("could not be read");
        (await Should.ThrowAsync<MediaException>(() => ShellAsync("echo x > /usr/bin/x"))).ShouldNotBeNull();
        (await File.ReadAllTextAsync(samples.Path("input.txt"))).ShouldBe("the input");
    }

    [Fact]
    public async Task It_reaches_no_port_of_the_machine()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        var port = ((IPEndPoint)listener.LocalEndpoint).Port;
        await ShellAsync($"bash -c 'echo hello > /dev/tcp/127.0.0.1/{port}' 2>/dev/null; true");
        listener.Pending().ShouldBeFalse();

        // The same by a program outside arrives, so the check can fail.
        await samples.RunAsync("bash", "-c", $"echo hello > /dev/tcp/127.0.0.1/{port}");
        listener.Pending().ShouldBeTrue();
    }

    [Fact]
    public async Task Memory_time_output_and_programs_are_bounded()
    {
        const string Grow = "awk 'BEGIN { s = \"x\"; for (i = 0; i < {0}; i++) s = s s; system(\"sleep 10\") }'";
        await Should.ThrowAsync<MediaException>(() => ShellAsync($"exec {Grow.Replace("{0}", "30", StringComparison.Ordinal)}"));
        (await StoppedAsync($"for i in 1 2 3; do {Grow.Replace("{0}", "27", StringComparison.Ordinal)} & done; wait")).Message
            .ShouldContain("256 MB of memory");
        (await StoppedAsync("while :; do :; done", seconds: 1)).Message.ShouldContain("did not finish within 1 seconds");
        (await StoppedAsync("sleep 600", seconds: 1)).Message.ShouldContain("did not finish within 1 seconds");
        (await StoppedAsync("for i in 1 2 3 4; do dd if=/dev/zero of=/out/$i bs=1M count=4 2>/dev/null; done; sleep 20")).Message
            .ShouldContain("more than 8 MB");
        (await StoppedAsync("for i in $(seq 100); do : > /out/file-$i; done")).Message.ShouldContain("50 files");
        Directory.Delete(Out, recursive: true);
        (await StoppedAsync("for i in $(seq 300); do sleep 20 & done; wait")).Message.ShouldContain("too many programs");
        (await StoppedAsync("yes")).Message.ShouldContain("more than can be kept");
    }

    [Fact]
    public async Task What_it_started_ends_with_it_within_two_seconds_of_a_cancel()
    {
        using var cancel = new CancellationTokenSource();
        var mark = $"sleep 61{Random.Shared.Next(1000, 9999)}";
        var running = ShellAsync($"({mark} &) ; setsid {mark} & {mark}", seconds: 60, cancel: cancel.Token);
        await UntilAsync(async () => (await CountAsync(mark)) >= 3);
        var start = System.Diagnostics.Stopwatch.GetTimestamp();
        await cancel.CancelAsync();
        await Should.ThrowAsync<OperationCanceledException>(() => running);
        await UntilAsync(async () => (await CountAsync(mark)) == 0);
        System.Diagnostics.Stopwatch.GetElapsedTime(start).TotalSeconds.ShouldBeLessThan(2);
    }

    [Fact]
    public async Task Only_files_with_a_content_of_their_own_are_taken_from_its_output()
    {
        using var work = new WorkFolder(samples.Folder);
        await kit.Box.RunAsync(
            new BoxedProgram("sh", _ => ["-c", "ln -s /etc/passwd /out/small.jpg; mkfifo /out/medium.jpg; : > /out/large.jpg; ln -s / /out/all; "
                + "echo text > /out/huge.jpg; mkdir /out/shut; echo x > /out/shut/y; chmod 000 /out/shut"], TimeSpan.FromSeconds(20))
            {
                Output = work.Path,
            }, CancellationToken.None);
        foreach (var name in new[] { "small.jpg", "medium.jpg", "large.jpg", "all/etc/passwd", "none.jpg" })
        {
            Should.Throw<MediaException>(() => work.Written(name)).Message.ShouldContain("nothing came of it");
        }

        var target = samples.Path("board");
        foreach (var copy in new PictureFile[] {
            new("huge.jpg", 10, 10),
            new("../input.txt", 10, 10),
            new("huge.jpg", 0, 10),
            new("text.json", 5, 5) })
        {
            Should.Throw<MediaException>(() => work.TakeCopies([copy], "", target));
        }

        Directory.GetFileSystemEntries(target).ShouldBeEmpty();
    }

    [Fact]
    public async Task Where_nothing_can_be_closed_in_only_pictures_and_clips_are_taken_until_a_setting_names_the_risk()
    {
        var pdf = samples.Pdf("a.pdf", (200, 200, 0));
        await File.WriteAllTextAsync(samples.Path("a.svg"), """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 16 9"><circle r="5"/></svg>""");
        var open = new Kit(box: new() { Program = "no-such-box" });
        (await open.Box.ReadsAllKindsAsync()).ShouldBeFalse();
        (await Should.ThrowAsync<MediaException>(() => open.OpenPdfAsync(pdf))).Message.ShouldContain("bubblewrap is not installed");
        (await Should.ThrowAsync<MediaException>(() => open.Looks.DrawAsync(pdf, samples.Folder, CancellationToken.None))).Message
            .ShouldContain("bubblewrap");
        (await Should.ThrowAsync<MediaException>(() => open.Pictures.ImportSvgAsync(samples.Path("a.svg"), samples.Folder, CancellationToken.None)))
            .Message
            .ShouldContain("bubblewrap");
        (await open.Pictures.ImportAsync(
            samples.Picture("p.png", 50, 50, SkiaSharp.SKEncodedImageFormat.Png),
            samples.Path("made"),
            CancellationToken.None)).Count.ShouldBe(1);

        var daring = new Kit(box: new() { Program = "no-such-box", ReadsFilesWithoutIt = true });
        (await daring.Box.ClosesAsync()).ShouldBeFalse();
        await using var pages = await daring.OpenPdfAsync(pdf);
        (await pages.ImportAsync(1, samples.Path("page"), CancellationToken.None)).Words.Words.Single().Text.ShouldBe("Vault1");
        (await daring.Pictures.ImportSvgAsync(samples.Path("a.svg"), samples.Path("svg"), CancellationToken.None))[^1].Name
            .ShouldBe(Pictures.SharpName);
    }

    private async Task<int> CountAsync(string command) =>
        int.Parse(
            await samples.RunAsync("sh", "-c", $"cat /proc/[0-9]*/cmdline 2>/dev/null | tr '\\0' ' ' | grep -o '{command}' | wc -l; true"),
            System.Globalization.CultureInfo.InvariantCulture)
        - 1;

    private static async Task UntilAsync(Func<Task<bool>> state)
    {
        for (var i = 0; i < 400 && !await state(); i++)
        {
            await Task.Delay(20);
        }
    }
}
