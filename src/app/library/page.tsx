import { LibraryPlace } from '@/library/LibraryPlace';

export default function LibraryPage() {
  return <LibraryPlace />;
}
