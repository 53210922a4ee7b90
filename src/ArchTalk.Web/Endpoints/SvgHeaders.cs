namespace ArchTalk.Web.Endpoints;

/// <summary>SVG pictures are shown as images only; opened by themselves they can do nothing.</summary>
internal static class SvgHeaders
{
    public static void Add(HttpResponse response, string type)
    {
        if (type == "image/svg+xml")
        {
            response.Headers.ContentSecurityPolicy = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox";
        }
    }
}
