/** Hands a file to the browser, to be saved where the user keeps such files. */
export function download(file: Blob, name: string): void {
  const url = URL.createObjectURL(file);
  const link = document.createElement('a');
  link.href = url;
  // Signs that file systems do not take in names become dashes.
  link.download = name.replace(/[\\/:*?"<>|]/g, '-');
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
