import { Plus } from 'lucide-react';
import { faces, isShipped } from '../../../../core/text/faces.ts';
import { addFont } from '../../../../core/edits/project-edits.ts';
import { storeFont } from '../../../data/api.ts';
import { notify, sentenceOf } from '../../../data/notices.ts';
import { useProject } from '../../../data/project.ts';
import { FileButton } from '../../../parts/file-button.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import type { WordsPart } from '../card/text.tsx';

/** The faces that ship, and one's own that the project keeps. */
export function FontChoice({ document, layer, text, set }: WordsPart) {
  const { dispatch } = useProject();
  const gone = !isShipped(text.face) && !document.fonts.some((font) => font.file === text.face);
  const options = [
    ...faces.map((face) => ({ value: face as string, name: face })),
    ...document.fonts.map(({ file, name }) => ({ value: file, name })),
    ...(gone ? [{ value: text.face, name: 'a font that is gone' }] : []),
  ];
  const bring = async (file: File): Promise<void> => {
    const font = await storeFont(file);
    dispatch(addFont(font));
    set({ face: font.file });
  };
  return (
    <div
      data-testid="fonts"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file && !layer.locked) void bring(file).catch(notifyOf(file));
      }}
    >
      <SmallSelect
        label="Font"
        value={text.face}
        options={options}
        disabled={layer.locked}
        onChange={(face) => set({ face })}
      />
      <FileButton
        label="Font file"
        accept=".ttf,.otf,.woff2,font/ttf,font/otf,font/woff2"
        icon={<Plus size={14} />}
        className="w-full"
        disabled={layer.locked}
        onFile={bring}
      >
        Add a font of your own
      </FileButton>
    </div>
  );
}

const notifyOf =
  (file: File) =>
  (error: unknown): void =>
    notify('problem', `${file.name}: ${sentenceOf(error)}`);
