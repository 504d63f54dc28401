import { expect } from 'chai';
import { drawOf as drawnCard, apply, card, empty } from '../edits/test-cards.ts';
import type { Draw } from './draw.ts';
import { filesOfImage, type ImageContent } from './draw.ts';
import { compose, transform, type Matrix } from './matrix.ts';
import { boundsOfDraws, movedDraw } from './moved-draw.ts';

const plain = drawnCard(apply(empty(), card('float', 3, [40, -10])), 'float');
const by: Matrix = [0, 2, -2, 0, 30, 70];
/** Where the corner of a draw, or of what it holds, is seen. */
const at = ({ matrix }: { matrix: Matrix }): number[] => transform(matrix, 3, 5);
const movedPoint = ({ matrix }: { matrix: Matrix }): number[] => transform(by, ...transform(matrix, 3, 5));

describe('a draw seen elsewhere', () => {
  const masks = { shapes: [], matrix: [1, 0, 0, 1, 7, 9] } as unknown as NonNullable<Draw['masks']>;
  const clips = [{ path: [], matrix: [2, 0, 0, 2, 1, 1] as Matrix }] as unknown as Draw['clips'];

  it('goes there with its masks and clips', () => {
    const moved = movedDraw({ ...plain, masks, clips }, by);
    expect(at(moved)).to.deep.equal(movedPoint(plain));
    expect(at(moved.masks!)).to.deep.equal(movedPoint(masks));
    expect(at(moved.clips[0]!)).to.deep.equal(movedPoint(clips[0]!));
    expect(movedDraw(plain, by).masks).to.equal(null);
  });

  it('that holds others takes them along and covers the frame as before', () => {
    for (const content of [
      { kind: 'together', draws: [plain, plain] },
      { kind: 'mean', moments: [plain, plain] },
    ] as Draw['content'][]) {
      const moved = movedDraw({ ...plain, content, clips }, by);
      const inner =
        moved.content.kind === 'together'
          ? moved.content.draws
          : moved.content.kind === 'mean'
            ? moved.content.moments
            : [];
      expect(inner.map(at)).to.deep.equal([movedPoint(plain), movedPoint(plain)]);
      expect(moved.matrix).to.deep.equal(plain.matrix);
      expect(at(moved.clips[0]!)).to.deep.equal(movedPoint(clips[0]!));
    }
  });

  it('that covers the frame stays where it is', () => {
    for (const content of [{ kind: 'flat', colour: [0, 0, 0, 1] }, { kind: 'grade' }] as Draw['content'][])
      expect(movedDraw({ ...plain, content }, by).matrix).to.deep.equal(plain.matrix);
  });
});

describe('the box around draws', () => {
  const corners = (matrix: Matrix): [number, number][] =>
    [
      [0, 0],
      [plain.width, 0],
      [0, plain.height],
      [plain.width, plain.height],
    ].map(([x, y]) => transform(matrix, x!, y!));
  const around = (points: [number, number][]) => {
    const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
    const [x, y] = [Math.min(...xs), Math.min(...ys)];
    return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
  };
  const far = movedDraw(plain, [0.6, 0.8, -0.8, 0.6, 300, 100]);

  it('holds all corners of each, however turned, also of what draws hold', () => {
    const wanted = around([...corners(plain.matrix), ...corners(far.matrix)]);
    expect(boundsOfDraws([plain, far])).to.deep.equal(wanted);
    expect(boundsOfDraws([{ ...plain, content: { kind: 'together', draws: [plain, far] } }])).to.deep.equal(wanted);
    expect(boundsOfDraws([{ ...plain, content: { kind: 'mean', moments: [plain, far] } }])).to.deep.equal(wanted);
  });

  it('holds every copy where it stands', () => {
    const places: Matrix[] = [
      [1, 0, 0, 1, 50, 20],
      [0, 1, -1, 0, -80, 40],
    ];
    const content: Draw['content'] = {
      kind: 'copies',
      of: { ...plain, matrix: [1, 0, 0, 1, 0, 0] },
      places: Float64Array.from(places.flatMap((place) => [...place, 1])),
    };
    expect(boundsOfDraws([{ ...plain, content }])).to.deep.equal(
      around(places.flatMap((place) => corners(compose(plain.matrix, place)))),
    );
  });

  it('is a point where there are none', () => {
    expect(boundsOfDraws([])).to.deep.equal({ x: 0, y: 0, width: 1, height: 1 });
  });
});

describe('the files of an image', () => {
  const image: ImageContent = { kind: 'image', file: 'own', clip: null, corners: null, sways: [], relief: null };
  const relief = { file: 'map', behind: null, camera: { x: 0, y: 0, z: 0 }, near: 1, far: 4, toImage: by };

  it('are its own, its depth map, and what comes to light behind it with the map of that', () => {
    expect(filesOfImage(image)).to.deep.equal({ drawn: ['own'], maps: [] });
    expect(filesOfImage({ ...image, relief })).to.deep.equal({ drawn: ['own'], maps: ['map'] });
    const behind = { picture: 'back', depth: 'far' };
    expect(filesOfImage({ ...image, relief: { ...relief, behind } })).to.deep.equal({
      drawn: ['own', 'back'],
      maps: ['map', 'far'],
    });
  });
});
