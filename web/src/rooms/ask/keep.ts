/** What the browser saves of what this page made. */

/** Let the browser save what stands at an address made on this page. */
export function keep(url: string, name: string): void {
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
}

export function keepText(text: string, name: string): void {
  const url = URL.createObjectURL(new Blob([text], { type: "text/plain" }));
  keep(url, name);
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
