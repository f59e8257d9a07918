/** @jest-environment jsdom */
import { createPinia, setActivePinia } from 'pinia';
import { nextTick } from 'vue';
import * as client from '../src/api/client';
import { useProduction } from '../src/stores/production';
import { useSending } from '../src/stores/sending';

jest.mock('../src/api/client', () => ({
  ...jest.requireActual<object>('../src/api/client'),
  sendFile: jest.fn(),
}));

/** What was sent, and how each ends when the test says so. */
const sent: { name: string; to: client.SentTo; arrive: () => void; fail: (error: Error) => void }[] = [];
beforeEach(() => {
  setActivePinia(createPinia());
  sent.length = 0;
  jest.mocked(client.sendFile).mockImplementation(
    (file, to) =>
      new Promise((resolve, reject) => {
        sent.push({ name: (file as File).name, to, arrive: () => resolve(undefined as never), fail: reject });
      }),
  );
});

const settle = async (): Promise<void> => {
  for (let i = 0; i < 5; i++) await nextTick();
};
const videos = (...names: string[]): File[] => names.map((name) => new File(['film'], name));

function opened(id: string): void {
  const production = useProduction();
  production.id = id;
  production.loaded = true;
}

describe('files on their way in', () => {
  it('wait until the page knows which production is open', async () => {
    const sending = useSending();
    void sending.add(videos('a.mp4'));
    await settle();
    expect(sent).toEqual([]);
    opened('harbour');
    await settle();
    expect(sent.map(({ name, to }) => [name, to])).toEqual([
      ['a.mp4', { production: 'harbour', known: 'refuse', pictures: undefined, depthFrom: undefined }],
    ]);
  });

  it('go three at a time, and leave the list when they have arrived', async () => {
    opened('harbour');
    const sending = useSending();
    await sending.add(videos('a.mp4', 'b.mp4', 'c.mp4', 'd.mp4'));
    expect(sent.map(({ name }) => name)).toEqual(['a.mp4', 'b.mp4', 'c.mp4']);
    sent[1].arrive();
    await settle();
    expect(sent.map(({ name }) => name)).toEqual(['a.mp4', 'b.mp4', 'c.mp4', 'd.mp4']);
    expect(sending.files.map(({ name }) => name)).toEqual(['a.mp4', 'c.mp4', 'd.mp4']);
  });

  it('stay with a sentence when they were refused, and one that is known is brought in again on demand', async () => {
    opened('harbour');
    const sending = useSending();
    await sending.add(videos('a.mp4'));
    sent[0].fail(new client.RefusedError('It is here already.', 'KNOWN_FILE'));
    await settle();
    expect(sending.files).toMatchObject([{ state: 'failed', problem: 'It is here already.', known: true }]);
    sending.again(sending.files[0].id);
    expect(sent[1].to).toMatchObject({ known: 'add' });
    sent[1].arrive();
    await settle();
    expect(sending.files).toEqual([]);
  });

  it('replace a clip without asking for the production', async () => {
    const sending = useSending();
    await sending.add(videos('a.mp4'), 'clip');
    expect(sent[0].to).toEqual({ replaces: 'clip' });
  });
});
