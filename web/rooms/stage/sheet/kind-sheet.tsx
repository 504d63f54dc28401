import { useState } from 'react';
import { Sheet } from '../../../parts/sheet.tsx';
import { Tile, tileSize } from './tile.tsx';

/** Something that can be chosen by its picture. */
export interface SheetKind {
  id: string;
  name: string;
  purpose: string;
  heavy?: boolean;
}

export interface SheetFamily {
  name: string;
  kinds: readonly SheetKind[];
}

interface KindSheetProps {
  title: string;
  /** What the things are called, for the search and the hint. */
  things: string;
  hint: string;
  families: readonly SheetFamily[];
  /** For each kind its picture, or several that play. */
  pictures: ReadonlyMap<string, readonly ImageBitmap[]>;
  /** The tile as wide as the pictures' proportions ask for. */
  onChoose(kind: string): void;
  onClose(): void;
}

/** Many kinds of a thing as small live pictures, by family, with a search; pointing shows one large, pressing takes it. */
export function KindSheet({ title, things, hint, families, pictures, onChoose, onClose }: KindSheetProps) {
  const [search, setSearch] = useState('');
  const [large, setLarge] = useState<string | null>(null);
  const wanted = search.trim().toLowerCase();
  const fits = (family: string, { name, purpose }: SheetKind): boolean =>
    wanted === '' || `${name} ${purpose} ${family}`.toLowerCase().includes(wanted);
  const shown = families
    .map(({ name, kinds }) => ({ name, kinds: kinds.filter((kind) => fits(name, kind)) }))
    .filter(({ kinds }) => kinds.length > 0);
  const first = shown[0]?.kinds[0];
  const looked = families.flatMap(({ kinds }) => kinds).find((kind) => kind.id === large) ?? first;
  return (
    <Sheet
      title={title}
      size="w-[1136px]"
      onClose={onClose}
      beside={
        <input
          autoFocus
          type="search"
          aria-label={`Search ${things}`}
          placeholder="Search"
          className="w-56 rounded-md border border-line bg-white px-2 py-1 text-[13px]"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && first && onChoose(first.id)}
        />
      }
    >
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-auto px-4 pb-4">
          {shown.map(({ name, kinds }) => (
            <section key={name} aria-label={name}>
              <h3 className="pt-3 pb-1.5 text-[13px] font-semibold text-pine capitalize">{name}</h3>
              <ul className="flex flex-wrap gap-2.5">
                {kinds.map((kind) => (
                  <li key={kind.id}>
                    <button
                      type="button"
                      className="block overflow-hidden rounded-lg border border-line bg-white/60 text-left hover:border-pine focus-visible:border-pine"
                      title={kind.purpose}
                      onClick={() => onChoose(kind.id)}
                      onPointerEnter={() => setLarge(kind.id)}
                      onFocus={() => setLarge(kind.id)}
                    >
                      <Tile pictures={pictures.get(kind.id)} scale={1} />
                      <span className="flex items-center gap-1 px-2 py-1 text-[12px]">
                        {kind.name}
                        {kind.heavy && (
                          <span
                            className="ml-auto text-ink-2"
                            title="Takes its time; left out while heavy effects are off"
                          >
                            heavy
                          </span>
                        )}
                      </span>
                    </button>
                  </li>
                ))}
              </ul>
            </section>
          ))}
          {shown.length === 0 && <p className="py-10 text-center text-ink-2">Nothing here is called that.</p>}
        </div>
        <aside className="shrink-0 border-l border-line p-4" style={{ width: 2 * tileSize[0] + 64 }} aria-live="polite">
          <Tile pictures={pictures.get(looked?.id ?? '')} scale={2} />
          {looked && <p className="mt-2 font-semibold">{looked.name}</p>}
          {looked && <p className="text-[13px] text-ink-2">{looked.purpose}</p>}
          {large === null && <p className="mt-2 text-[12px] text-ink-2">{hint}</p>}
        </aside>
      </div>
    </Sheet>
  );
}
