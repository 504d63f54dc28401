import { useEffect, useMemo, useState } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import { currentPlate } from '../../../../core/document/plate.ts';
import { hangables, type Hangable } from '../../../../core/edits/lift-edit.ts';
import { fileUrl } from '../../../data/api.ts';
import { KindSheet } from './kind-sheet.tsx';
import { tileSize } from './tile.tsx';

interface HangSheetProps {
  document: Document;
  onChoose(one: Hangable): void;
  onClose(): void;
}

const purposes: Record<Hangable['kind'], string> = {
  piece: 'Hangs where it lies in its picture; as often as you like.',
  background: 'The picture without what was lifted out of it.',
  picture: 'The picture as it came, with everything in it.',
};

/** Everything that was brought in or lifted, as pictures; pressing one hangs it in the shot once more. */
export function HangSheet({ document, onChoose, onClose }: HangSheetProps) {
  const there = useMemo(() => hangables(document), [document]);
  const families = [
    { name: 'Pieces', kinds: there.filter(({ kind }) => kind === 'piece') },
    { name: 'Pictures', kinds: there.filter(({ kind }) => kind !== 'piece') },
  ].map(({ name, kinds }) => ({
    name,
    kinds: kinds.map((one) => ({ id: keyOf(one), name: one.name, purpose: purposes[one.kind] })),
  }));
  return (
    <KindSheet
      title="Hang a piece or a picture"
      things="pieces and pictures"
      hint="Press one to hang it in this shot, once more if it hangs there already."
      families={families.filter(({ kinds }) => kinds.length > 0)}
      pictures={useThumbnails(document, there)}
      onChoose={(key) => onChoose(there.find((one) => keyOf(one) === key)!)}
      onClose={onClose}
    />
  );
}

const keyOf = ({ kind, id }: Hangable): string => `${kind} ${id}`;

/** The stored file that shows a thing; null for one that has none. */
function fileOf(document: Document, { kind, id }: Hangable): string | null {
  if (kind === 'piece') return document.pieces.find((piece) => piece.id === id)?.cutout?.file ?? null;
  const picture = document.pictures.find((one) => one.id === id);
  if (!picture) return null;
  return (kind === 'background' && picture.background && currentPlate(picture.background).file) || picture.file;
}

/** Each of them, fitted into a tile, as they come. */
function useThumbnails(document: Document, there: readonly Hangable[]): Map<string, ImageBitmap[]> {
  const [pictures, setPictures] = useState(new Map<string, ImageBitmap[]>());
  const files = there.flatMap((one) => {
    const file = fileOf(document, one);
    return file ? [{ key: keyOf(one), file }] : [];
  });
  // A change of the document that leaves the files as they are loads nothing again.
  const wanted = JSON.stringify(files);
  useEffect(() => {
    let gone = false;
    for (const { key, file } of JSON.parse(wanted) as typeof files) {
      void fitted(fileUrl(file, 480)).then((bitmap) => {
        if (!gone && bitmap) setPictures((before) => new Map(before).set(key, [bitmap]));
      });
    }
    return () => {
      gone = true;
    };
  }, [wanted]);
  return pictures;
}

/** A picture in the middle of a tile; null where its file cannot be shown, which the tile's name still says. */
async function fitted(url: string): Promise<ImageBitmap | null> {
  const image = new Image();
  image.src = url;
  if (
    !(await image.decode().then(
      () => true,
      () => false,
    ))
  )
    return null;
  const [width, height] = [2 * tileSize[0], 2 * tileSize[1]];
  const tile = new OffscreenCanvas(width, height);
  const scale = Math.min(width / image.naturalWidth, height / image.naturalHeight);
  const [w, h] = [image.naturalWidth * scale, image.naturalHeight * scale];
  tile.getContext('2d')!.drawImage(image, (width - w) / 2, (height - h) / 2, w, h);
  return tile.transferToImageBitmap();
}
