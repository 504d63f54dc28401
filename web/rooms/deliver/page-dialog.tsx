import { ClipboardCopy, FileArchive } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { clipHtml, fileNameFor, type PageClip } from '../../../core/formats/page.ts';
import { exportFormats } from '../../../core/formats/exports.ts';
import { downloadUrl, type Output } from '../../data/api.ts';
import { notify, notifyError } from '../../data/notices.ts';
import { Button } from '../../parts/button.tsx';
import { download } from '../../parts/download.ts';
import { RadioButton, Radios } from '../../parts/radios.tsx';
import { Sheet } from '../../parts/sheet.tsx';
import { firstPicture, pageZip } from './page-files.ts';

const widths = [
  ['phone', 'Phone', 390],
  ['tablet', 'Tablet', 768],
  ['desktop', 'Desktop', 1280],
] as const;
type Device = (typeof widths)[number][0];

/** What may lie behind a clip that can be seen through. */
const grounds = {
  white: 'bg-white',
  dark: 'bg-ink text-white',
  strong: 'bg-saffron',
  striped: 'bg-[repeating-linear-gradient(45deg,#44648a_0_14px,#eae5da_14px_28px)]',
} as const;
type Ground = keyof typeof grounds;

/** The room the stand-in page has in the dialog, CSS pixels. */
const room = { width: 620, height: 460 };

/** A clip as it will sit on a page, with what is needed to put it there. */
export function PageDialog({ output, onClose }: { output: Output; onClose(): void }) {
  const [device, setDevice] = useState<Device>('desktop');
  const [poster, setPoster] = useState<Blob | null>(null);
  const [onlyPoster, setOnlyPoster] = useState(false);
  const [ground, setGround] = useState<Ground>('white');
  const url = downloadUrl(output);
  const { width, height, name, format } = output;
  const clear = exportFormats[format].transparent;
  useEffect(() => {
    let wanted = true;
    firstPicture(url, clear).then((made) => wanted && setPoster(made), notifyError);
    return () => void (wanted = false);
  }, [url, clear]);
  const posterUrl = usePictureUrl(poster);
  const clip: PageClip = {
    name,
    clip: `${fileNameFor(name)}.${exportFormats[format].ending}`,
    poster: clear ? 'poster.png' : 'poster.jpg',
    mediaType: exportFormats[format].mediaType,
    width,
    height,
  };
  const html = clipHtml(clip);
  const across = widths.find(([id]) => id === device)![2];
  const scale = Math.min(1, room.width / across);
  return (
    <Sheet
      title={`${name} on a page`}
      size="w-[1040px]"
      onClose={onClose}
      beside={
        <Radios label="Width" chosen={device} onChoose={setDevice} className="flex gap-1">
          {widths.map(([id, label, pixels]) => (
            <RadioButton
              key={id}
              value={id}
              className={`rounded-md border px-2 py-1 text-[13px] ${id === device ? 'border-pine bg-white text-pine' : 'border-line hover:bg-paper-2'}`}
            >
              {label} <span className="font-mono text-[11px] text-ink-2">{pixels}</span>
            </RadioButton>
          ))}
        </Radios>
      }
    >
      <div className="flex min-h-0 gap-4 overflow-auto p-4">
        <div className="shrink-0 overflow-hidden rounded-lg border border-line bg-field" style={room}>
          <div
            data-testid="stand-in-page"
            className={`mx-auto origin-top-left overflow-hidden px-6 py-5 ${grounds[ground]}`}
            style={{
              width: across,
              height: room.height / scale,
              transform: `scale(${scale})`,
              marginLeft: (room.width - across * scale) / 2,
            }}
          >
            <h2 className="mb-2 text-[28px] font-semibold">{name}</h2>
            <Lines count={2} />
            <div className="my-4" style={{ maxWidth: width }}>
              {onlyPoster && posterUrl ? (
                <img src={posterUrl} alt={name} className="block h-auto w-full" />
              ) : (
                <video
                  className="block h-auto w-full"
                  width={width}
                  height={height}
                  src={url}
                  poster={posterUrl ?? undefined}
                  autoPlay
                  muted
                  loop
                  playsInline
                  aria-label={name}
                />
              )}
            </div>
            <Lines count={5} />
          </div>
        </div>
        <div className="flex min-w-0 flex-1 flex-col gap-2">
          <label className="flex items-center gap-2 text-[13px]">
            <input type="checkbox" checked={onlyPoster} onChange={(event) => setOnlyPoster(event.target.checked)} />
            Show what players that do not start by themselves show
          </label>
          {clear && (
            <Radios
              label="Ground"
              chosen={ground}
              onChoose={setGround}
              className="flex items-center gap-1.5 text-[13px]"
            >
              On
              {(Object.keys(grounds) as Ground[]).map((id) => (
                <RadioButton
                  key={id}
                  value={id}
                  label={id}
                  title={id}
                  className={`size-6 rounded-md border-2 ${grounds[id]} ${id === ground ? 'border-pine' : 'border-line'}`}
                />
              ))}
            </Radios>
          )}
          <textarea
            readOnly
            aria-label="HTML"
            className="min-h-48 flex-1 rounded-md border border-line bg-white p-2 font-mono text-[11px]"
            value={html}
          />
          <div className="flex gap-2">
            <Button
              icon={<ClipboardCopy size={14} />}
              onClick={() => {
                navigator.clipboard.writeText(html).then(() => notify('done', 'The HTML is copied.'), notifyError);
              }}
            >
              Copy HTML
            </Button>
            <Button
              look="primary"
              icon={<FileArchive size={14} />}
              disabled={!poster}
              title="Page, clip and poster in one file that opens from disk"
              onClick={() => {
                pageZip(clip, url, poster!).then((zip) => download(zip, `${fileNameFor(name)}.zip`), notifyError);
              }}
            >
              Download page (ZIP)
            </Button>
          </div>
        </div>
      </div>
    </Sheet>
  );
}

/** Lines that stand for text. */
const Lines = ({ count }: { count: number }) => (
  <div className="flex flex-col gap-2" aria-hidden>
    {Array.from({ length: count }, (_, k) => (
      <div key={k} className="h-2.5 rounded-full bg-paper-2" style={{ width: `${94 - ((k * 17) % 41)}%` }} />
    ))}
  </div>
);

/** An address of a picture for as long as it is shown. */
function usePictureUrl(picture: Blob | null): string | null {
  const url = useMemo(() => picture && URL.createObjectURL(picture), [picture]);
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  return url;
}
