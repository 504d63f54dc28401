import { z } from 'zod';
import { fileHash, id, pointSchema, rectSchema, seed, strokeSchema } from './schema-parts.ts';

/** What the user says about a region to rebuild, in picture pixels. */
export const guidesSchema = z.object({
  from: z.array(strokeSchema),
  never: z.array(strokeSchema),
  lines: z.array(z.object({ from: pointSchema, to: pointSchema })),
});

/** A result that was made and may be chosen: the part of the plate it would replace, lying at (x, y) of the picture. */
const takeSchema = z.object({ seed, file: fileHash, bounds: rectSchema });

/** Part of another take painted into the chosen one. */
const mixSchema = z.object({ seed, strokes: z.array(strokeSchema).min(1) });

export const touchSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('gone'), stroke: strokeSchema, seed }),
  z.object({ kind: z.literal('clone'), stroke: strokeSchema, offset: pointSchema, soft: z.number().min(0).max(1) }),
  z.object({ kind: z.literal('heal'), stroke: strokeSchema, offset: pointSchema, soft: z.number().min(0).max(1) }),
]);

/** Marks on a piece itself may also continue what another piece, as it was lifted then, hides of it. */
export const pieceTouchSchema = z.discriminatedUnion('kind', [
  ...touchSchema.options,
  z.object({
    kind: z.literal('behind'),
    of: id,
    file: fileHash,
    /** Where it lies in the picture. */
    x: z.number().int(),
    y: z.number().int(),
    seed,
  }),
]);

const pad = z.number().int().min(0).max(8192);
export const padSchema = z.object({ left: pad, top: pad, right: pad, bottom: pad });

/** What every step keeps: the whole plate after it, lying at `bounds` of the picture (widened plates begin left of 0). */
const made = { id, file: fileHash, bounds: rectSchema };
/** What steps keep that have several results to choose from; `seed` is the chosen one. */
const chosen = { seed, takes: z.array(takeSchema), mix: z.array(mixSchema) };

/** One step from the picture to its clean plate. Inputs are kept, so that every step can be made again. */
export const plateStepSchema = z.discriminatedUnion('kind', [
  /** What lay behind the lifted pieces. */
  z.object({
    kind: z.literal('behind'),
    ...made,
    ...chosen,
    guides: guidesSchema,
    /** Whether only what the shot will show is rebuilt in full. */
    onlySeen: z.boolean(),
    /** Another picture of the same place that shows what is behind; null to rebuild it. */
    photo: id.nullable(),
  }),
  /** A painted region, continued from its surroundings. */
  z.object({
    kind: z.literal('rebuild'),
    ...made,
    ...chosen,
    guides: guidesSchema,
    region: z.array(strokeSchema).min(1),
  }),
  /** The plate continued past its borders. */
  z.object({ kind: z.literal('widen'), ...made, ...chosen, pad: padSchema }),
  /** Small marks of the retouching brushes, in order. */
  z.object({ kind: z.literal('retouch'), ...made, touches: z.array(touchSchema).min(1) }),
]);

export const plateSchema = z.object({ steps: z.array(plateStepSchema).min(1) });

export type Plate = z.infer<typeof plateSchema>;
export type PlateStep = z.infer<typeof plateStepSchema>;
export type PlateTake = z.infer<typeof takeSchema>;
export type PlateMix = z.infer<typeof mixSchema>;
type Unmade<T> = T extends unknown ? Omit<T, 'file' | 'bounds' | 'takes'> : never;
/** A step's inputs: what is asked for before there is a result. */
export type PlateOrder = Unmade<PlateStep>;

export const stepNames: Record<PlateStep['kind'], string> = {
  behind: 'Background behind pieces',
  rebuild: 'Rebuilt region',
  widen: 'Widened',
  retouch: 'Retouched',
};

/** The plate as it stands: its file, and where that lies in picture pixels. */
export function currentPlate(plate: Plate): { file: string; bounds: PlateStep['bounds'] } {
  const { file, bounds } = plate.steps.at(-1)!;
  return { file, bounds };
}

/** Where the plate lay before a step was made; where it lies now when no step is named. */
export function boundsBefore(
  picture: { width: number; height: number; background: Plate | null },
  stepId: string | null,
): PlateStep['bounds'] {
  const steps = picture.background?.steps ?? [];
  const index = stepId === null ? -1 : steps.findIndex((step) => step.id === stepId);
  const before = steps.slice(0, index < 0 ? steps.length : index).at(-1);
  return before?.bounds ?? { x: 0, y: 0, width: picture.width, height: picture.height };
}

/** Files of all steps and takes. */
export function filesOfPlate(plate: Plate): string[] {
  return plate.steps.flatMap((step) => [step.file, ...('takes' in step ? step.takes.map((take) => take.file) : [])]);
}

export const emptyGuides: z.infer<typeof guidesSchema> = { from: [], never: [], lines: [] };

/** What a first lift asks for behind the pieces. */
export const firstBehind = {
  kind: 'behind' as const,
  seed: 1,
  mix: [],
  guides: emptyGuides,
  onlySeen: false,
  photo: null,
};
