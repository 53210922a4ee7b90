/** Reads the JSON that the server wrote into the page under an id. */
export function pageData<T>(id: string): T {
  const element = document.getElementById(id);
  if (!element?.textContent) {
    throw new Error(`The page has no data called ${id}.`);
  }

  return JSON.parse(element.textContent) as T;
}
