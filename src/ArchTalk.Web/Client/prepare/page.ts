import { ItemMaker, type Templates } from "../board/items";
import { pageData } from "../shared/page-data";

/** What the server wrote into the Prepare page. */
export const page = pageData<{ lesson: string; limitMb: number; templates: Templates }>("page-data");

/** Makes new items. */
export const maker = new ItemMaker(page.templates, "en");

export const api = `/api/lessons/${page.lesson}`;

/** A web address found in a slide. */
export interface Link {
  title: string;
  address: string;
}

/** The event by which the boards tell the references which links their slides hold. */
export const linksFound = "links-found";
