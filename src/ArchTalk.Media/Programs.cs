using System.ComponentModel;
using System.Text;
using CliWrap;

namespace ArchTalk.Media;

/// <summary>Runs the outside programs: with a time limit, killed when the work is cancelled.</summary>
internal static class Programs
{
    /// <summary>Runs to the end and gives back standard error.</summary>
    /// <exception cref="MediaException">The program is missing, took too long, or failed.</exception>
    public static async Task<string> RunAsync(
        string program, IReadOnlyList<string> arguments, TimeSpan limit, CancellationToken cancel, PipeSource? input = null, PipeTarget? output = null)
    {
        var errors = new StringBuilder();
        using var timeout = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        timeout.CancelAfter(limit);
        try
        {
            var result = await Cli.Wrap(program)
                .WithArguments(arguments)
                .WithStandardInputPipe(input ?? PipeSource.Null)
                .WithStandardOutputPipe(output ?? PipeTarget.Null)
                .WithStandardErrorPipe(PipeTarget.ToStringBuilder(errors))
                .WithValidation(CommandResultValidation.None)
                .ExecuteAsync(timeout.Token);
            if (result.ExitCode != 0)
            {
                throw new MediaException($"{program} could not read or write it ({LastLine(errors)}).");
            }

            return errors.ToString();
        }
        catch (OperationCanceledException e) when (!cancel.IsCancellationRequested)
        {
            throw new MediaException($"{program} did not finish within {limit.TotalSeconds:0} seconds and was stopped.", e);
        }
        catch (Win32Exception e)
        {
            throw new ProgramMissingException($"The program {program} is not installed on the server. Ask whoever runs it to install it; ./demo does so.", e);
        }
    }

    private static string LastLine(StringBuilder text) =>
        text.ToString().Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).LastOrDefault() ?? "no reason given";
}
