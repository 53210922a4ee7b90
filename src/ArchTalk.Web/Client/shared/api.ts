// Calls to the server. Every write carries the antiforgery token that the page was served with.

/** An answer that isn't a success; its message is meant for people. */
export class ApiError extends Error {
  constructor(message: string, readonly status: number) {
    super(message);
  }
}

const unreachable = "The server can't be reached at the moment. What you did last is still on this page; try again shortly.";

export function antiforgeryToken(): string {
  return document.querySelector<HTMLMetaElement>('meta[name="antiforgery"]')?.content ?? "";
}

export function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  return body === undefined ? send(method, path, {}, null) : send(method, path, { "Content-Type": "application/json" }, JSON.stringify(body));
}

/** Sends a file as the body itself, its name in a header. */
export function sendFile<T>(method: string, path: string, file: File): Promise<T> {
  return send(method, path, { "X-File-Name": encodeURIComponent(file.name) }, file);
}

/** Sends something while the page is being left; no answer is heard. */
export function sendOnLeaving(method: string, path: string, body: unknown): void {
  const headers = { "X-Antiforgery": antiforgeryToken(), "Content-Type": "application/json" };
  void fetch(path, { method, headers, body: JSON.stringify(body), keepalive: true }).catch(() => undefined);
}

async function send<T>(method: string, path: string, headers: Record<string, string>, body: BodyInit | null): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, { method, headers: { "X-Antiforgery": antiforgeryToken(), ...headers }, body });
  } catch {
    throw new ApiError(unreachable, 0);
  }

  if (response.status === 401) {
    throw new ApiError("You are no longer signed in. Sign in again in another tab, then try once more here; nothing on this page is lost.", 401);
  }

  const text = await response.text();
  const answer = text && response.headers.get("Content-Type")?.includes("json") ? (JSON.parse(text) as unknown) : null;
  if (!response.ok) {
    const message = (answer as { message?: string } | null)?.message;
    throw new ApiError(message ?? "The server could not do that. Nothing was changed; try again.", response.status);
  }

  return answer as T;
}

export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
