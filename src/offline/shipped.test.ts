import { keyOf, pageOf } from './shipped';

const ORIGIN = 'http://127.0.0.1:3000';
const key = (path: string, headers: Record<string, string> = {}, isDocument = false) =>
  keyOf(new URL(path, ORIGIN), new Headers(headers), ORIGIN, isDocument);

test('every place is a page, whatever part or groove it is about', () => {
  expect(['/', '/grooves', '/library', '/bench/demo-low-tide', '/bench/a/b', '/elsewhere', '/benches'].map(pageOf)).toEqual([
    'index',
    'grooves',
    'library',
    'bench',
    null,
    null,
    null,
  ]);
});

test('documents, their data and pieces of it are kept apart', () => {
  expect(key('/grooves?part=x', {}, true)).toBe('/@page/grooves');
  expect(key('/bench/abc?_rsc=1', { RSC: '1' })).toBe('/@data/bench');
  expect(key('/bench/abc?_rsc=1', { RSC: '1', 'Next-Router-Segment-Prefetch': '/_tree' })).toBe('/@piece/bench/_tree');
});

test('files are kept by their path; the API, other hosts and pages that are read as text go to the server', () => {
  expect(key('/_next/static/chunks/a.js?dpl=2')).toBe('/_next/static/chunks/a.js');
  expect(key('/demo/parts.json')).toBe('/demo/parts.json');
  expect([key('/api/perform'), key('http://127.0.0.1:4000/a.js'), key('/grooves')]).toEqual([null, null, null]);
});
