using System.Collections.Concurrent;
using Microsoft.Extensions.Logging;

namespace ArchTalk.Web.Tests;

/// <summary>Keeps what is logged as a warning or worse.</summary>
internal sealed class WrittenLog : ILoggerProvider, ILogger
{
    private readonly ConcurrentQueue<string> lines = new();

    public IReadOnlyCollection<string> Lines => lines;

    public ILogger CreateLogger(string categoryName) => this;

    public IDisposable? BeginScope<TState>(TState state)
        where TState : notnull => null;

    public bool IsEnabled(LogLevel logLevel) => logLevel >= LogLevel.Warning;

    public void Log<TState>(LogLevel logLevel, EventId eventId, TState state, Exception? exception, Func<TState, Exception?, string> formatter)
    {
        if (IsEnabled(logLevel))
        {
            lines.Enqueue(formatter(state, exception));
        }
    }

    public void Dispose()
    {
    }
}
