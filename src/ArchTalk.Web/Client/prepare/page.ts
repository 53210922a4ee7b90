import { pageData } from "../shared/page-data";

/** What the server wrote into the Prepare page. */
export const page = pageData<{ lesson: string; limitMb: number }>("page-data");

export const api = `/api/lessons/${page.lesson}`;
