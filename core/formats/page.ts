/** A clip as it stands on a page: its files beside the page, its size in pixels. */
export interface PageClip {
  name: string;
  /** File names of the clip and of its poster. */
  clip: string;
  poster: string;
  mediaType: string;
  width: number;
  height: number;
}

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

/**
 * The HTML of a clip in its loop (WHATWG HTML, `video`): muted, so that players start it by themselves, with its poster where
 * they do not, and only the poster for who wants less motion (Media Queries 5, `prefers-reduced-motion`).
 */
export function clipHtml({ name, clip, poster, mediaType, width, height }: PageClip): string {
  const [alt, size] = [escaped(name), `width="${width}" height="${height}"`];
  return `<style>
  .moving-picture { margin: 0; max-width: ${width}px; }
  .moving-picture video, .moving-picture img { display: block; width: 100%; height: auto; }
  .moving-picture img { display: none; }
  @media (prefers-reduced-motion: reduce) {
    .moving-picture video { display: none; }
    .moving-picture img { display: block; }
  }
</style>
<figure class="moving-picture">
  <video ${size} poster="${escaped(poster)}" autoplay muted loop playsinline aria-label="${alt}">
    <source src="${escaped(clip)}" type="${mediaType}">
  </video>
  <img ${size} src="${escaped(poster)}" alt="${alt}">
</figure>
`;
}

/** A whole page around the clip that opens from disk. */
export const pageHtml = (clip: PageClip): string => `<!doctype html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <title>${escaped(clip.name)}</title>
  <style>
    body { margin: 0; font: 16px/1.5 system-ui, sans-serif; color: #1c2a30; background: #f5f2eb; }
    main { max-width: ${Math.max(640, clip.width)}px; margin: 0 auto; padding: 24px 16px; }
  </style>
</head>
<body>
  <main>
    <h1>${escaped(clip.name)}</h1>
${clipHtml(clip)
  .split('\n')
  .map((line) => (line ? `    ${line}` : ''))
  .join('\n')}  </main>
</body>
</html>
`;

/** A file name any server and any disk takes: small letters, figures and dashes. */
export function fileNameFor(name: string): string {
  const plain = name
    .normalize('NFKD')
    .replace(/[^\w\s-]/g, '')
    .trim()
    .replace(/[\s_]+/g, '-')
    .toLowerCase();
  return plain.slice(0, 60) || 'clip';
}
