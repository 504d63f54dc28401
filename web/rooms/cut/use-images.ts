import { useEffect, useState } from 'react';
import type { Picture } from '../../../core/document/document.ts';
import { currentPlate, type PlateStep } from '../../../core/document/plate.ts';
import { fileUrl } from '../../data/api.ts';
import { loadBitmap } from '../../workers/pixels.ts';
import { notifyError } from '../../data/notices.ts';

/** Something stored, and where it lies in picture pixels. */
export interface PlacedFile {
  file: string;
  bounds: PlateStep['bounds'];
}

export interface PlacedImages {
  plate: ImageBitmap;
  picture: ImageBitmap;
  bounds: PlacedFile['bounds'];
}

export const loadPicture = (file: string): Promise<ImageBitmap> => loadBitmap(fileUrl(file));

/** The background as it stands; the picture itself while nothing was made of it. */
export function placedPlate(picture: Picture): PlacedFile {
  if (picture.background) return currentPlate(picture.background);
  return { file: picture.file, bounds: { x: 0, y: 0, width: picture.width, height: picture.height } };
}

/** Loads a placed file and the picture it belongs to; the last good images stay until the next ones are there. */
export function useImages(placed: PlacedFile | null, pictureFile: string): PlacedImages | null {
  const [shown, setShown] = useState<PlacedImages | null>(null);
  const file = placed?.file;
  const { x = 0, y = 0 } = placed?.bounds ?? {};
  useEffect(() => {
    if (!file) return;
    let current = true;
    Promise.all([loadPicture(file), loadPicture(pictureFile)])
      .then(([plate, picture]) => {
        const bounds = { x, y, width: plate.width, height: plate.height };
        if (current) setShown({ plate, picture, bounds });
      })
      .catch((error: unknown) => notifyError(error));
    return () => {
      current = false;
    };
  }, [file, pictureFile, x, y]);
  return shown;
}
