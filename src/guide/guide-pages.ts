import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Marked } from 'marked';

/** A page of docs/guide, for the app: the same text, without its pictures. */
export interface GuidePage {
  /** Its anchor. */
  id: string;
  title: string;
  html: string;
}

const FOLDER = join('docs', 'guide');
/** The project's own files are not in the app. */
const OUTSIDE = /^\.\.\//;

/** Reads the guide when the app is built. @param root the project's folder */
export function guidePages(root: string): GuidePage[] {
  const marked = new Marked({
    renderer: {
      image: () => '',
      link({ href, text }) {
        return OUTSIDE.test(href) ? text : false;
      },
    },
  });
  return readdirSync(join(root, FOLDER))
    .filter((file) => /^\d\d-.*\.md$/.test(file))
    .sort()
    .map((file): GuidePage => {
      const text = readFileSync(join(root, FOLDER, file), 'utf8');
      const [heading = '', ...rest] = text.split('\n');
      return {
        id: file.replace(/^\d\d-|\.md$/g, ''),
        title: heading.replace(/^#\s*/, ''),
        html: marked.parse(rest.join('\n'), { async: false }),
      };
    });
}
