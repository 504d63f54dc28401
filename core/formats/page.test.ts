import { expect } from 'chai';
import { XMLParser } from 'fast-xml-parser';
import { clipHtml, fileNameFor, pageHtml, type PageClip } from './page.ts';

const clip: PageClip = {
  name: 'Tide & "time" <now>',
  clip: 'tide-time-now.mp4',
  poster: 'poster.jpg',
  mediaType: 'video/mp4',
  width: 640,
  height: 360,
};

describe('a clip on a page', () => {
  it('starts by itself where it may, loops without sound, and has its size and its poster', () => {
    const html = clipHtml(clip);
    const video = /<video ([^>]*)>/.exec(html)![1]!;
    for (const word of [
      'autoplay',
      'muted',
      'loop',
      'playsinline',
      'width="640"',
      'height="360"',
      'poster="poster.jpg"',
    ])
      expect(video).to.contain(word);
    expect(html).to.contain('<source src="tide-time-now.mp4" type="video/mp4">');
    expect(html).to.match(/prefers-reduced-motion: reduce\) \{\s+\.moving-picture video \{ display: none; \}/);
  });

  it('names cannot break out of it', () => {
    const page = pageHtml(clip);
    expect(page).to.not.contain('<now>');
    expect(page).to.contain('<title>Tide &amp; &quot;time&quot; &lt;now&gt;</title>');
    // Read as a browser would, every element that is opened is closed.
    const options = {
      ignoreAttributes: false,
      unpairedTags: ['meta', 'img', 'source'],
      stopNodes: ['*.style'],
      htmlEntities: true,
    };
    const read = new XMLParser({ ...options, allowBooleanAttributes: true }).parse(
      page.replace('<!doctype html>', ''),
    ) as {
      html: { body: { main: object } };
    };
    expect(read.html.body.main).to.have.property('figure');
  });

  it('file names are what any server takes', () => {
    expect(fileNameFor('Lantern Week — poster №1')).to.match(/^lantern-week-poster-/);
    expect(fileNameFor('../../etc')).to.equal('etc');
    expect(fileNameFor('潮')).to.equal('clip');
    expect(fileNameFor('x'.repeat(200))).to.have.length(60);
  });
});
