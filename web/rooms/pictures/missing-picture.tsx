import { FileInput } from 'lucide-react';
import type { Picture } from '../../../core/document/document.ts';
import { replaceWorkingPicture } from '../../../core/edits/plate-edits.ts';
import { uploadClip, uploadPicture } from '../../data/api.ts';
import { notify } from '../../data/notices.ts';
import { useProject } from '../../data/project.ts';
import { FileButton } from '../../parts/file-button.tsx';

/** Stands for a picture whose file is gone from the data folder, and takes the same file in again. */
export function MissingPicture({ picture, onBack }: { picture: Picture; onBack(): void }) {
  const { dispatch } = useProject();
  const takeIn = async (file: File): Promise<void> => {
    const original = picture.clip ? await uploadClip(file) : await takeInStill(file);
    if (original !== picture.original)
      return notify('problem', `"${file.name}" is another file than the one that was brought in as "${picture.name}".`);
    notify('done', `"${picture.name}" is there again.`);
    onBack();
  };
  const takeInStill = async (file: File): Promise<string> => {
    const made = await uploadPicture(file);
    if (made.original === picture.original && made.file !== picture.file)
      dispatch(replaceWorkingPicture(picture.id, { file: made.file, width: made.width, height: made.height }));
    return made.original;
  };
  return (
    <div className="flex max-w-sm flex-col items-center gap-3 text-center text-white" role="alert">
      <p>The file of this picture is missing or damaged in the data folder. What was made of it is kept.</p>
      <FileButton
        label={`File of ${picture.name}`}
        accept="image/*,video/*"
        icon={<FileInput size={14} />}
        onFile={takeIn}
      >
        Bring the file in again
      </FileButton>
    </div>
  );
}
