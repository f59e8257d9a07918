import { ref } from 'vue';
import type { ClipView } from '@merry-shadow/contracts/clip';
import type { TakeView } from '@merry-shadow/contracts/take';
import { asSequence, pickedFiles, sortFound, withTheirDepth } from '../src/footage/dropped-files';
import { sortedFootage, type FootageOrder } from '../src/footage/footage-order';
import { useEditedName } from '../src/shell/edited-name';
import { aboutSeconds, bodySpeed, trackingSeconds } from '../src/stores/tracking-time';
import { placeAfterMove } from '../src/takes/list-order';

/** Footage and takes in their lists: found, ordered, moved; what comes in with a folder; how long tracking will take. */
const clip = (id: string, fields: Partial<ClipView> = {}): ClipView =>
  ({ id, name: `${id}.mp4`, tags: [], notes: '', judged: null, facts: { seconds: 5 }, ...fields }) as ClipView;
const take = (fields: object): TakeView => fields as TakeView;

describe('footage', () => {
  const clips = [
    clip('b10', { tags: ['pier'], facts: { seconds: 9 } as ClipView['facts'] }),
    clip('b2', { notes: 'Low tide.', judged: { count: 1, severity: 0.7, worst: 'Dark.' } }),
    clip('a', { tags: ['pier', 'evening'], facts: { seconds: 2 } as ClipView['facts'] }),
  ];
  const takes = [take({ clipId: 'b10', captured: {} }), take({ clipId: 'a', captured: null })];
  const ids = (wanted: { words?: string; tag?: string; order?: FootageOrder }): string[] =>
    sortedFootage(clips, takes, { words: '', tag: '', order: 'oldest', ...wanted }).map(({ id }) => id);

  it.each<[FootageOrder, string[]]>([
    ['oldest', ['b10', 'b2', 'a']],
    ['newest', ['a', 'b2', 'b10']],
    ['name', ['a', 'b2', 'b10']],
    ['longest', ['b10', 'b2', 'a']],
    ['worst', ['b2', 'b10', 'a']],
    ['untracked', ['b2', 'a', 'b10']],
  ])('stands in the order "%s"', (order, expected) => {
    expect(ids({ order })).toEqual(expected);
    expect(clips.map(({ id }) => id)).toEqual(['b10', 'b2', 'a']);
  });

  it('is found by all words in names, tags and notes, and by its tag', () => {
    expect(ids({ words: ' TIDE b2' })).toEqual(['b2']);
    expect(ids({ words: 'evening' })).toEqual(['a']);
    expect(ids({ words: 'tide evening' })).toEqual([]);
    expect(ids({ tag: 'pier' })).toEqual(['b10', 'a']);
  });
});

describe('what comes in with a folder', () => {
  const file = (path: string): File => {
    const [name] = path.split('/').slice(-1);
    return Object.assign(new File([name], name), { webkitRelativePath: path });
  };
  const list = (...paths: string[]): FileList => paths.map(file) as unknown as FileList;

  it('are films as they are and pictures as one sequence of each folder; other files are left out', () => {
    const found = pickedFiles(
      list('reel/gull.MOV', 'reel/notes.txt', 'reel/a/2.png', 'reel/a/10.png', 'reel/a/1.png', 'reel/b/x.JPG'),
    );
    const { files, sequences } = sortFound(found);
    expect(files.map(({ name }) => name)).toEqual(['gull.MOV']);
    expect([...sequences].map(([folder, pictures]) => [folder, pictures.length])).toEqual([
      ['reel/a', 3],
      ['reel/b', 1],
    ]);
  });

  it('what was chosen by itself is sent whatever it is called', () => {
    expect(sortFound(pickedFiles(list('notes.txt', 'one.png'))).files.map(({ name }) => name)).toEqual([
      'notes.txt',
      'one.png',
    ]);
  });

  it('pictures stand in the order of their numbers', async () => {
    const sequence = asSequence('/reel/a', [file('2.png'), file('10.png'), file('1.png')], 12);
    expect(sequence).toMatchObject({ name: 'a', picturesPerSecond: 12 });
    expect(await sequence.text()).toBe('1.png2.png10.png');
  });
});

describe('takes', () => {
  it('get a place between their new neighbours', () => {
    const places = [10, 20, 30, 40];
    expect(placeAfterMove(places, 0, 2)).toBe(35);
    expect(placeAfterMove(places, 3, 1)).toBe(15);
    expect(placeAfterMove(places, 2, 0)).toBe(9);
    expect(placeAfterMove(places, 0, 3)).toBe(41);
  });

  it('take as long to track as those before them, by what is looked at', () => {
    const parts = (hands: boolean, face: boolean, fine: boolean) => ({ hands, face, fine });
    const tracked = take({ captured: { ...parts(true, true, false), framesPerSecond: 20 } });
    const speed = bodySpeed([tracked, take({ captured: null }), take({ captured: { framesPerSecond: null } })]);
    const next = (settings: object): TakeView => take({ fromFrame: 100, untilFrame: 400, settings });
    expect(trackingSeconds(next(parts(true, true, false)), speed)).toBeCloseTo(15, 6);
    expect(trackingSeconds(next(parts(false, false, false)), speed)).toBeLessThan(10);
    expect(trackingSeconds(next(parts(true, true, true)), speed)).toBeGreaterThan(20);
    // With high precision hands are looked at twice, as the body is; the face is not.
    const seconds = (hands: boolean, face: boolean, fine: boolean): number =>
      trackingSeconds(next(parts(hands, face, fine)), speed);
    const [hands, face] = [true, false].map(
      (of) => (fine: boolean) => seconds(of, !of, fine) - seconds(false, false, fine),
    );
    expect(hands(true)).toBeGreaterThan(1.5 * hands(false));
    expect(face(true)).toBeCloseTo(face(false), 6);
    expect(bodySpeed([])).toBeGreaterThan(0);
  });

  it.each([
    [3.2, 'about 4 s'],
    [22, 'about 25 s'],
    [95, 'about 2 min 00 s'],
  ])('%d s are told roughly', (seconds, words) => {
    expect(aboutSeconds(seconds)).toBe(words);
  });
});

describe('a name', () => {
  it('is changed when it is done; an empty one is put back, and news of another one are shown', async () => {
    const name = ref('The walk');
    const renamed: string[] = [];
    const { text, done } = useEditedName(
      () => name.value,
      (next) => renamed.push(next),
    );
    text.value = '  Second walk ';
    done();
    expect(renamed).toEqual(['Second walk']);
    text.value = '   ';
    done();
    expect([text.value, renamed.length]).toEqual(['The walk', 1]);
    name.value = 'From another window';
    await Promise.resolve();
    expect(text.value).toBe('From another window');
  });
});

it('clips that are chosen with their depth are sent together with it', async () => {
  const files = ['walk.depth.mkv', 'Walk.mp4', 'rope.mp4', 'alone.depth.mkv'].map(
    (name) => new File([`(${name})`], name),
  );
  const footage = withTheirDepth(files);
  expect(footage.map(({ name }) => name)).toEqual(['Walk.mp4', 'rope.mp4', 'alone.depth.mkv']);
  expect(footage[0]).toMatchObject({ depthFrom: 10 });
  expect(await footage[0].text()).toBe('(Walk.mp4)(walk.depth.mkv)');
});
