using System.Threading.RateLimiting;
using ArchTalk.Core.Boards.Items;
using ArchTalk.Data;
using ArchTalk.Data.Entities;
using ArchTalk.Data.Files;
using ArchTalk.Media;
using ArchTalk.Media.Boxes;
using ArchTalk.Web.Boards;
using ArchTalk.Web.Endpoints;
using ArchTalk.Web.Jobs;
using ArchTalk.Web.Lessons;
using ArchTalk.Web.Publishing;
using ArchTalk.Web.Recording;
using ArchTalk.Web.Timelines;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.ResponseCompression;
using Microsoft.EntityFrameworkCore;

namespace ArchTalk.Web.Setup;

/// <summary>Puts the application together. The demo's builder uses the same services as the web application.</summary>
public static class ArchTalkSetup
{
    /// <summary>The name of the rate limit on what strangers can call.</summary>
    public const string StrangersLimit = "strangers";

    /// <summary>The name of the rate limit on recorders, who are known by their take's token only.</summary>
    public const string RecordersLimit = "recorders";

    /// <summary>The services that do the work, without anything of the web.</summary>
    /// <param name="fonts">The folder of the pages' fonts, for measuring writing.</param>
    public static IServiceCollection AddArchTalkServices(this IServiceCollection services, ArchTalkOptions options, string contentRoot, string fonts)
    {
        var files = new LessonFiles(Path.Combine(contentRoot, options.DataFolder));
        services.AddSingleton(files);
        services.AddSingleton(options);
        services.AddSingleton(options.Limits);
        services.AddSingleton(options.Programs);
        services.AddSingleton<ITextMeasure>(_ => new SkiaTextMeasure(fonts)).AddSingleton<ItemDrawings>();
        services.AddSingleton(new Box(options.Box, options.Limits, files.Root));
        services.AddSingleton<DeckLooks>().AddSingleton<PageReader>().AddSingleton<Pictures>().AddSingleton<Clips>().AddSingleton<Voice>().AddSingleton<Importers>();
        services.AddSingleton(TimeProvider.System);
        services.AddDbContextFactory<ArchTalkDb>(db => DatabaseSetup.Configure(db, files.Database));
        services.AddScoped(p => p.GetRequiredService<IDbContextFactory<ArchTalkDb>>().CreateDbContext());
        services.AddIdentityCore<Teacher>(identity =>
            {
                identity.Password.RequiredLength = 10;
                identity.Password.RequireDigit = identity.Password.RequireUppercase =
                    identity.Password.RequireLowercase = identity.Password.RequireNonAlphanumeric = false;
                identity.User.RequireUniqueEmail = true;
                identity.Lockout.MaxFailedAccessAttempts = 10;
            })
            .AddEntityFrameworkStores<ArchTalkDb>();
        services.AddScoped<LessonService>().AddScoped<SectionService>().AddScoped<BoardService>().AddScoped<PublishingService>();
        services.AddScoped<ItemService>().AddScoped<BoardPictures>().AddScoped<SeenService>().AddScoped<VocabularyService>();
        services.AddSingleton<TakeJournals>().AddScoped<RecordingService>().AddScoped<LessonCompiler>();
        services.AddSingleton<JobSignal>().AddScoped<JobService>().AddSingleton<JobRunner>();
        services.AddKeyedScoped<IJobHandler, ImportJob>(JobKind.Import);
        services.AddKeyedScoped<IJobHandler, ReadJob>(JobKind.Read);
        services.AddKeyedScoped<IJobHandler, PublishJob>(JobKind.Publish);
        return services;
    }

    /// <summary>Everything the web application needs.</summary>
    public static void AddArchTalk(this WebApplicationBuilder builder)
    {
        var options = builder.Configuration.GetSection(ArchTalkOptions.Section).Get<ArchTalkOptions>() ?? new ArchTalkOptions();
        builder.WebHost.ConfigureKestrel(k => k.AddServerHeader = false);
        var services = builder.Services;
        services.AddArchTalkServices(options, builder.Environment.ContentRootPath, Path.Combine(builder.Environment.ContentRootPath, "wwwroot", "app", "fonts"));
        services.AddHostedService<JobWorker>();
        services.AddDataProtection().SetApplicationName("ArchTalk").PersistKeysToFileSystem(
            new DirectoryInfo(Path.Combine(builder.Environment.ContentRootPath, options.DataFolder, "keys")));
        services.AddAuthentication(IdentityConstants.ApplicationScheme).AddIdentityCookies(cookies => cookies.ApplicationCookie!.Configure(cookie =>
        {
            cookie.LoginPath = "/sign-in";
            cookie.AccessDeniedPath = "/sign-in";
            cookie.Cookie.Name = "archtalk";
            cookie.ExpireTimeSpan = TimeSpan.FromDays(14);
            cookie.Events.OnRedirectToLogin = context =>
            {
                // Scripts get an answer they can act on; people get the sign-in page.
                if (context.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal))
                {
                    context.Response.StatusCode = StatusCodes.Status401Unauthorized;
                }
                else
                {
                    context.Response.Redirect(context.RedirectUri);
                }

                return Task.CompletedTask;
            };
        }));
        services.AddAuthorization();
        services.AddHttpContextAccessor();
        new IdentityBuilder(typeof(Teacher), services).AddSignInManager();
        var (headers, svgHeaders) = (Headers(), SvgHeaders());
        services.AddSecurityHeaderPolicies().SetDefaultPolicy(headers).SetPolicySelector(context => IsOwnSvg(context.HttpContext.Request.Path) ? svgHeaders : headers);
        services.AddAntiforgery(a => a.HeaderName = "X-Antiforgery");
        services.AddRazorPages(pages => pages.Conventions.AuthorizeFolder("/").AllowAnonymousToPage("/SignIn").AllowAnonymousToPage("/FirstRun")
            .AllowAnonymousToPage("/Watch").AllowAnonymousToPage("/Error"));
        services.AddResponseCompression(c =>
        {
            c.EnableForHttps = true;
            c.MimeTypes = [.. ResponseCompressionDefaults.MimeTypes, "text/vtt", "application/ld+json"];
        });
        services.AddRateLimiter(limits =>
        {
            limits.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            limits.AddPolicy(StrangersLimit, context => RateLimitPartition.GetFixedWindowLimiter(
                context.Connection.RemoteIpAddress?.ToString() ?? "unknown",
                _ => new FixedWindowRateLimiterOptions { PermitLimit = 30, Window = TimeSpan.FromMinutes(1) }));

            limits.AddPolicy(RecordersLimit, context => RateLimitPartition.GetTokenBucketLimiter(
                context.Connection.RemoteIpAddress?.ToString() ?? "unknown",
                _ => new TokenBucketRateLimiterOptions
                {
                    TokenLimit = 3 * options.UploadsPerSecond,
                    TokensPerPeriod = options.UploadsPerSecond,
                    ReplenishmentPeriod = TimeSpan.FromSeconds(1),
                }));
        });
        services.Configure<ForwardedHeadersOptions>(f =>
        {
            f.ForwardedHeaders = options.BehindProxy ? ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto : ForwardedHeaders.None;
            f.KnownProxies.Clear();
            f.KnownIPNetworks.Clear();
        });
    }

    /// <summary>The order in which a request goes through the application.</summary>
    public static void UseArchTalk(this WebApplication app)
    {
        app.UseForwardedHeaders();
        app.UseSecurityHeaders();
        app.UseExceptionHandler("/error");
        app.UseStatusCodePagesWithReExecute("/error", "?status={0}");
        app.UseWhen(c => !WatchEndpoints.IsMedia(c.Request.Path), branch => branch.UseResponseCompression());
        app.UseStaticFiles(new StaticFileOptions
        {
            OnPrepareResponse = file => file.Context.Response.Headers.CacheControl =
                file.Context.Request.Query.ContainsKey("v") ? "public, max-age=31536000, immutable" : "no-cache",
        });
        app.UseRouting();
        app.UseRateLimiter();
        app.UseAuthentication();
        app.UseMiddleware<FirstRunRedirect>();
        app.UseAuthorization();
        app.UseAntiforgery();
        app.MapRazorPages();
        app.MapBoardEndpoints();
        app.MapItemEndpoints();
        app.MapVocabularyEndpoints();
        app.MapAttachmentEndpoints();
        app.MapSectionEndpoints();
        app.MapRecordEndpoints();
        app.MapTimelineEndpoints();
        app.MapPublishEndpoints();
        app.MapWatchEndpoints();
    }

    // Pictures that teachers brought, under a lesson or a publication; not the application's own icons.
    private static bool IsOwnSvg(PathString path) =>
        path.Value is { } value && value.EndsWith(".svg", StringComparison.OrdinalIgnoreCase)
        && (path.StartsWithSegments("/lessons", StringComparison.Ordinal) || path.StartsWithSegments("/w", StringComparison.Ordinal));

    // They are shown as images only; opened by themselves they can do nothing.
    private static HeaderPolicyCollection SvgHeaders() => new HeaderPolicyCollection()
        .AddContentTypeOptionsNoSniff()
        .AddContentSecurityPolicy(csp =>
        {
            csp.AddDefaultSrc().None();
            csp.AddStyleSrc().UnsafeInline();
            csp.AddImgSrc().Data();
            csp.AddSandbox();
        });

    private static HeaderPolicyCollection Headers() => new HeaderPolicyCollection()
        .AddFrameOptionsSameOrigin()
        .AddContentTypeOptionsNoSniff()
        .AddReferrerPolicyStrictOriginWhenCrossOrigin()
        .AddCrossOriginOpenerPolicy(p => p.SameOrigin())
        .AddPermissionsPolicy(p =>
        {
            p.AddMicrophone().Self();
            p.AddCamera().Self();
            p.AddGeolocation().None();
        })
        .AddContentSecurityPolicy(csp =>
        {
            csp.AddDefaultSrc().Self();
            csp.AddImgSrc().Self().Data().Blob();
            csp.AddMediaSrc().Self().Blob();
            csp.AddScriptSrc().Self();
            csp.AddStyleSrc().Self();
            csp.AddFontSrc().Self();
            csp.AddConnectSrc().Self();
            csp.AddWorkerSrc().Self();
            csp.AddObjectSrc().None();
            csp.AddBaseUri().Self();
            csp.AddFormAction().Self();
            csp.AddFrameAncestors().Self();
        });
}
