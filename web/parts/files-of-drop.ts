/** The files that were dropped, also those in folders. */
export async function filesOfDrop(data: DataTransfer): Promise<File[]> {
  // Entries can be asked for only while the drop is handled.
  const entries = [...data.items].map((item) => item.webkitGetAsEntry?.() ?? null);
  const files = [...data.files];
  if (!entries.some((entry) => entry?.isDirectory)) return files;
  return (await Promise.all(entries.map((entry) => (entry ? filesIn(entry) : [])))).flat();
}

async function filesIn(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile)
    return [await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject))];
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: FileSystemEntry[] = [];
  // A folder gives its entries in portions, and none at its end.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) break;
    found.push(...some);
  }
  const inside = found
    .filter(({ name }) => !name.startsWith('.'))
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  return (await Promise.all(inside.map(filesIn))).flat();
}
