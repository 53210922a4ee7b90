/** The files chosen in a file field, which is emptied so that the same file can be chosen again. */
export function pickedFiles(event: Event): File[] {
  const input = event.currentTarget as HTMLInputElement;
  const files = [...(input.files ?? [])];
  input.value = "";
  return files;
}
