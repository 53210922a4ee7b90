/** Fetches the arch of steps anew: a step may have opened. If it can't be fetched the old one stays. */
export async function refreshArch(): Promise<void> {
  const place = document.getElementById("steps");
  const address = place?.dataset["address"];
  const answer = address ? await fetch(address).catch(() => null) : null;
  if (place && answer?.ok) {
    const text = await answer.text();
    const arch = new DOMParser().parseFromString(text.replace("<svg", '<svg xmlns="http://www.w3.org/2000/svg"'), "image/svg+xml").documentElement;
    place.replaceChildren(document.importNode(arch, true));
  }
}
