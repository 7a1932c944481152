import { ShelfLink } from '@/ui/ShelfLink';
import { ThemeToggle } from '@/ui/ThemeToggle';
import { guidePages } from './guide-pages';

/** The guide: docs/guide in the app, thirteen pages on one, read when the app is built. */
export function GuidePlace() {
  const pages = guidePages(process.cwd());
  return (
    <div className="min-h-dvh bg-ground text-ink">
      <header className="mx-auto flex max-w-4xl items-center gap-3 px-4 pt-7">
        <h1 className="flex-1 font-serif text-3xl">Guide</h1>
        <ShelfLink />
        <ThemeToggle />
      </header>
      <main className="mx-auto grid max-w-4xl gap-8 px-4 py-6 md:grid-cols-[13rem_1fr]">
        <nav aria-label="Pages of the guide" className="md:sticky md:top-6 md:self-start">
          <ol className="space-y-1 text-sm">
            {pages.map(({ id, title }) => (
              <li key={id}>
                <a className="underline-offset-2 hover:underline" href={`#${id}`}>
                  {title}
                </a>
              </li>
            ))}
          </ol>
        </nav>
        <div className="space-y-10">
          {pages.map(({ id, title, html }) => (
            <section key={id} id={id} aria-labelledby={`title-${id}`} className="scroll-mt-6">
              <h2 id={`title-${id}`} className="mb-2 font-serif text-xl">
                {title}
              </h2>
              <div
                className="space-y-3 leading-7 [&_code]:rounded [&_code]:bg-sunk [&_code]:px-1 [&_code]:text-sm [&_code]:break-all [&_ol]:list-decimal [&_ol]:space-y-1.5 [&_ol]:pl-6"
                // It is the project's own text, read when the app is built.
                dangerouslySetInnerHTML={{ __html: html }}
              />
            </section>
          ))}
        </div>
      </main>
    </div>
  );
}
