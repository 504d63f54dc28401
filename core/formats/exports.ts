/** What an export is and how it is offered; who writes it is not its matter. */
export interface ExportFacts {
  /** As people call the format. */
  name: string;
  /** What it is for, as it is offered. */
  purpose: string;
  hint: string;
  mediaType: string;
  /** What its file's name ends with. */
  ending: string;
  /** Whether it is one frame, not a clip. */
  still: boolean;
  /** Whether it keeps what is transparent. */
  transparent: boolean;
  /** Whether what is transparent can be kept, each pixel wholly or not at all, where that is asked for. */
  clearable: boolean;
  /** Whether something can be heard in it. */
  sound: boolean;
  /** Whether it can be made to fit under a size. */
  fits: boolean;
  /** The most frames a second that make sense; null for as many as the project has. */
  mostRate: number | null;
  /** The longer side above which files grow out of hand; null for none. */
  mostEdge: number | null;
}

const video = {
  still: false,
  transparent: false,
  clearable: false,
  sound: false,
  fits: true,
  mostRate: null,
  mostEdge: null,
};

/** Every format a project can be exported to. A new one is a line here and a writer, which the compiler then asks for. */
export const exportFormats = {
  mp4: {
    name: 'MP4',
    purpose: 'For a video or a chat',
    hint: 'H.264, plays everywhere',
    mediaType: 'video/mp4',
    ending: 'mp4',
    ...video,
    sound: true,
  },
  webm: {
    name: 'WebM',
    purpose: 'For a page',
    hint: 'VP9, smaller at the same look',
    mediaType: 'video/webm',
    ending: 'webm',
    ...video,
    sound: true,
  },
  'webm-alpha': {
    name: 'WebM with alpha',
    purpose: 'A cutout over video',
    hint: 'VP9 with alpha, for players and editors that know it',
    mediaType: 'video/webm',
    ending: 'webm',
    ...video,
    fits: false,
    transparent: true,
  },
  av1: {
    name: 'AV1',
    purpose: 'Smallest on a page',
    hint: 'AV1 in WebM, takes longer to make',
    mediaType: 'video/webm',
    ending: 'webm',
    ...video,
    sound: true,
  },
  gif: {
    name: 'GIF',
    purpose: 'Where video is not allowed',
    hint: 'Loops by itself, 15 frames per second',
    mediaType: 'image/gif',
    ending: 'gif',
    ...video,
    clearable: true,
    mostRate: 15,
    mostEdge: 640,
  },
  apng: {
    name: 'APNG',
    purpose: 'A cutout that moves',
    hint: 'See-through, loops on any page; large',
    mediaType: 'image/apng',
    ending: 'apng',
    ...video,
    fits: false,
    transparent: true,
    mostRate: 30,
  },
  frames: {
    name: 'Frames',
    purpose: 'For an editor',
    hint: 'Numbered PNGs in a ZIP, see-through',
    mediaType: 'application/zip',
    ending: 'zip',
    ...video,
    fits: false,
    transparent: true,
  },
  png: {
    name: 'PNG',
    purpose: 'A poster',
    hint: 'One frame, as a still picture',
    mediaType: 'image/png',
    ending: 'png',
    ...video,
    fits: false,
    still: true,
    transparent: true,
  },
  jpeg: {
    name: 'JPEG',
    purpose: 'A poster anywhere',
    hint: 'One frame, small, on black',
    mediaType: 'image/jpeg',
    ending: 'jpg',
    ...video,
    fits: false,
    still: true,
  },
  webp: {
    name: 'WebP',
    purpose: 'A poster for a page',
    hint: 'One frame, smaller still, see-through',
    mediaType: 'image/webp',
    ending: 'webp',
    ...video,
    fits: false,
    still: true,
    transparent: true,
  },
  ora: {
    name: 'OpenRaster',
    purpose: 'Layers for another program',
    hint: 'One frame in layers, with names, opacity and blend modes',
    mediaType: 'image/openraster',
    ending: 'ora',
    ...video,
    fits: false,
    still: true,
    transparent: true,
  },
  layers: {
    name: 'Layers',
    purpose: 'Layers for a script',
    hint: 'One frame as PNGs by layer, with a JSON of their places',
    mediaType: 'application/zip',
    ending: 'zip',
    ...video,
    fits: false,
    still: true,
    transparent: true,
  },
} as const satisfies Record<string, ExportFacts>;

export type ExportFormat = keyof typeof exportFormats;

export const exportFormatIds = Object.keys(exportFormats) as [ExportFormat, ...ExportFormat[]];

/** The name of a numbered picture, from 1, with as many digits as the last one needs. */
export const numberedPng = (index: number, total: number): string =>
  `frame-${String(index + 1).padStart(Math.max(4, String(total).length), '0')}.png`;
