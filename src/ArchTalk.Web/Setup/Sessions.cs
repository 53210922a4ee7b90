using System.Buffers.Text;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Setup;

/// <summary>
/// Keeps who is signed in on the server; the cookie carries only a key. So a sign-out ends the session for every copy of the cookie,
/// and a new password ends all others.
/// </summary>
public sealed class Sessions(IDbContextFactory<ArchTalkDb> databases, TimeProvider clock) : ITicketStore
{
    private static readonly TimeSpan Longest = TimeSpan.FromDays(14);

    public async Task<string> StoreAsync(AuthenticationTicket ticket)
    {
        var key = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(32));
        await using var db = await databases.CreateDbContextAsync();
        var now = clock.GetUtcNow();
        await db.Sessions.Where(s => s.ExpiresAt < now).ExecuteDeleteAsync();
        db.Sessions.Add(new Session
        {
            KeyHash = Hash(key),
            TeacherId = ticket.Principal.FindFirstValue(ClaimTypes.NameIdentifier) ?? "",
            Ticket = TicketSerializer.Default.Serialize(ticket),
            ExpiresAt = ticket.Properties.ExpiresUtc ?? now + Longest,
        });
        await db.SaveChangesAsync();
        return key;
    }

    public async Task RenewAsync(string key, AuthenticationTicket ticket)
    {
        await using var db = await databases.CreateDbContextAsync();
        var (hash, bytes, until) = (Hash(key), TicketSerializer.Default.Serialize(ticket), ticket.Properties.ExpiresUtc
            ?? clock.GetUtcNow() + Longest);
        await db.Sessions.Where(s => s.KeyHash == hash)
            .ExecuteUpdateAsync(s => s.SetProperty(x => x.Ticket, bytes).SetProperty(x => x.ExpiresAt, until));
    }

    public async Task<AuthenticationTicket?> RetrieveAsync(string key)
    {
        await using var db = await databases.CreateDbContextAsync();
        var (hash, now) = (Hash(key), clock.GetUtcNow());
        var session = await db.Sessions.AsNoTracking().SingleOrDefaultAsync(s => s.KeyHash == hash && s.ExpiresAt > now);
        return session is null ? null : TicketSerializer.Default.Deserialize(session.Ticket);
    }

    public Task<AuthenticationTicket?> RetrieveAsync(string key, HttpContext httpContext, CancellationToken cancellationToken)
    {
        httpContext.Items[typeof(Sessions)] = Hash(key);
        return RetrieveAsync(key);
    }

    public async Task RemoveAsync(string key)
    {
        await using var db = await databases.CreateDbContextAsync();
        var hash = Hash(key);
        await db.Sessions.Where(s => s.KeyHash == hash).ExecuteDeleteAsync();
    }

    /// <summary>Ends all sessions of a teacher but the one of this request.</summary>
    public async Task EndOthersAsync(string teacher, HttpContext context, CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var own = context.Items[typeof(Sessions)] as string ?? "";
        await db.Sessions.Where(s => s.TeacherId == teacher && s.KeyHash != own).ExecuteDeleteAsync(cancel);
    }

    private static string Hash(string key) => Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(key)));
}
