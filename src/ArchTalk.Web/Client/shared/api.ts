// Calls to the server. Every write carries the antiforgery token that the page was served with.

/** An answer that isn't a success; its message is meant for people. */
export class ApiError extends Error {
  /** @param status 0 when nobody answered. */
  constructor(message: string, readonly status: number) {
    super(message);
  }
}

const unreachable = "The server can't be reached at the moment. What you did last is still on this page; try again shortly.";
const signedOut = "You are no longer signed in. Sign in again in another tab, then try once more here; nothing on this page is lost.";
const notDone = "The server could not do that. Nothing was changed; try again.";

export async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  const headers = { ...tokenHeader(), ...(body === undefined ? {} : { "Content-Type": "application/json" }) };
  let response: Response;
  let text: string;
  try {
    response = await fetch(path, { method, headers, body: body === undefined ? null : JSON.stringify(body) });
    text = await response.text();
  } catch {
    throw new ApiError(unreachable, 0);
  }

  return answerOf(response.status, response.headers.get("Content-Type"), text);
}

/** Sends something while the page is being left; no answer is heard. */
export function sendOnLeaving(method: string, path: string, body: unknown): void {
  const headers = { ...tokenHeader(), "Content-Type": "application/json" };
  void fetch(path, { method, headers, body: JSON.stringify(body), keepalive: true }).catch(() => undefined);
}

/** A file on its way. */
export interface Sending<T> {
  /** Rejects with an ApiError; also when it was stopped. */
  readonly answer: Promise<T>;
  stop(): void;
}

/**
 * Sends a file as the body itself, its name in a header.
 * @param progress Told how much has been sent, 0 to 100.
 */
export function sending<T>(method: string, path: string, file: File, progress: (share: number) => void = () => undefined): Sending<T> {
  const request = new XMLHttpRequest();
  const answer = new Promise<T>((resolve, reject) => {
    request.upload.onprogress = (e) => progress(e.total > 0 ? Math.round((100 * e.loaded) / e.total) : 0);
    request.onloadend = () => {
      try {
        resolve(answerOf<T>(request.status, request.getResponseHeader("Content-Type"), request.responseText));
      } catch (error) {
        reject(error instanceof Error ? error : new Error(String(error)));
      }
    };
  });
  request.open(method, path);
  Object.entries(tokenHeader()).forEach(([name, value]) => request.setRequestHeader(name, value));
  request.setRequestHeader("X-File-Name", encodeURIComponent(file.name));
  request.send(file);
  return { answer, stop: () => request.abort() };
}

export function sendFile<T>(method: string, path: string, file: File): Promise<T> {
  return sending<T>(method, path, file).answer;
}

export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

function tokenHeader(): Record<string, string> {
  return { "X-Antiforgery": document.querySelector<HTMLMetaElement>('meta[name="antiforgery"]')?.content ?? "" };
}

function answerOf<T>(status: number, type: string | null, text: string): T {
  if (status === 0) {
    throw new ApiError(unreachable, 0);
  }

  if (status === 401) {
    throw new ApiError(signedOut, 401);
  }

  const answer = text && type?.includes("json") ? (JSON.parse(text) as unknown) : null;
  if (status < 200 || status > 299) {
    throw new ApiError((answer as { message?: string } | null)?.message ?? notDone, status);
  }

  return answer as T;
}
