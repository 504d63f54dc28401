import { expect } from 'chai';
import { frameNow, usePlayed, useStage } from './stage-state.ts';
import { zoomedTime } from './time/zoomed-time.ts';

describe('selecting a range of rows', () => {
  const order = ['near', 'lantern', 'shadow', 'far'];
  const chosen = (): string[] => {
    const { selection } = useStage.getState();
    return selection?.kind === 'layers' ? selection.ids : [];
  };
  const { select, selectLayer, selectRange } = useStage.getState();
  beforeEach(() => select(null));

  it('starts at the row that was pressed first, up or down, and again from there', () => {
    selectLayer('shadow');
    selectRange(order, 'near');
    expect(chosen()).to.deep.equal(['shadow', 'lantern', 'near']);
    selectRange(order, 'far');
    expect(chosen()).to.deep.equal(['shadow', 'far']);
  });

  it('takes the pressed row alone where nothing is selected, or only what is not in sight', () => {
    selectRange(order, 'lantern');
    expect(chosen()).to.deep.equal(['lantern']);
    select({ kind: 'layers', ids: ['in a folded group'] });
    selectRange(order, 'shadow');
    expect(chosen()).to.deep.equal(['shadow']);
  });
});

describe('zooming in time', () => {
  const share = (view: { first: number; span: number }, frame: number): number => (frame - view.first) / view.span;

  it('keeps the frame it is about where it is, and never leaves the shot', () => {
    for (const about of [0, 13, 40, 59])
      for (const factor of [0.5, 0.8, 1.25]) {
        const before = { first: 10, span: 40 };
        const after = zoomedTime(before, 59, about, factor)!;
        expect(after.span).to.be.closeTo(40 * factor, 1e-9);
        expect(after.first).to.be.at.least(0);
        expect(after.first + after.span).to.be.at.most(59 + 1e-9);
        const free = after.first > 0 && after.first + after.span < 59;
        if (free) expect(share(after, about)).to.be.closeTo(share(before, about), 1e-9);
      }
  });

  it('stops at a few frames, and is all of the shot again when that fits', () => {
    expect(zoomedTime({ first: 10, span: 10 }, 59, 15, 0.01)!.span).to.equal(8);
    expect(zoomedTime({ first: 0, span: 40 }, 59, 20, 2)).to.equal(null);
    expect(zoomedTime({ first: 0, span: 5 }, 5, 2, 0.5), 'a shot shorter than that is always whole').to.equal(null);
  });
});

describe('the playhead', () => {
  beforeEach(() => {
    useStage.setState({ frame: 0, playing: false });
    usePlayed.setState({ frame: null });
  });

  it('runs apart from where it stood, and stands where it is stopped', () => {
    const { setFrame, setPlaying } = useStage.getState();
    setFrame(7);
    setPlaying(true);
    let told = 0;
    const stop = useStage.subscribe(() => told++);
    for (const frame of [8, 9, 10]) usePlayed.setState({ frame });
    stop();
    expect(told, 'what stands still is not told of frames that are played').to.equal(0);
    expect(frameNow()).to.equal(10);
    expect(useStage.getState().frame).to.equal(7);
    setPlaying(false);
    expect(useStage.getState().frame).to.equal(10);
    expect(usePlayed.getState().frame).to.equal(null);
    setFrame(3);
    expect(frameNow()).to.equal(3);
  });
});
