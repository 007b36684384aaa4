/** A design opened by a review link: read only, step by step, until the reader takes a copy. */
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useLocation } from 'react-router';
import { beginHistory } from '@nematos/core/design/history';
import type { Design } from '@nematos/core/design/schema';
import { fileInAddress } from '../data/review';
import type { Kept } from '../data/store';
import { readFile } from '../worker/read-file';
import { Page } from '../ui/page';
import { OnBench } from './workbench';

async function designIn(hash: string): Promise<Design> {
  const file = await fileInAddress(hash);
  const { found, refused } = await readFile(file, (reader) => reader.designs(file));
  const design = found?.designs[0];
  if (!design) throw new Error(found?.refused[0]?.says ?? refused);
  return design;
}

/** The design of the address. */
export default function ReviewPage() {
  const { hash } = useLocation();
  const read = useQuery({
    queryKey: ['review', hash],
    queryFn: () => designIn(hash),
    retry: false,
    refetchOnWindowFocus: false,
  });
  const kept = useMemo(
    (): Kept | undefined =>
      read.data && {
        id: 'review',
        history: beginHistory(read.data),
        view: { review: true, needle: 1 },
        created: 0,
        changed: 0,
      },
    [read.data],
  );
  if (read.error)
    return (
      <Page
        title="This address holds no design"
        text="It may have been cut short on its way: ask for it again, or for the design as a file."
      />
    );
  return kept ? <OnBench kept={kept} reading /> : null;
}
