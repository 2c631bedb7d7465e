import { useMemo, useRef } from 'react';
import { type PlacedMark } from '@/core/edits/match/matchSettings';
import { type MarkSays } from '@/core/match/matchMark';
import { type ToolInHand } from '@/store/benchState';
import { codeOfFrame, codeOfPlace, matchAt, setMarks, unstraightened } from '@/store/matchByMarks';
import { matchedFrame } from '@/store/matchSides';
import { type Look } from '@/store/session';
import { type PicturePoint, type Tool } from '@/ui/table/tool';
import { useActions, useBench, useBenchParts } from '../../benchContext';
import { looksOf, showsFinished } from '../../looks';
import { newEditId } from '../editIds';
import { EDITS_TEXT } from '../text';
import { useTarget } from '../useTarget';

const TEXT = EDITS_TEXT.match.marks;

/** What a mark set with the tool in hand says; undefined for any other tool. */
export const markInHand = (tool: ToolInHand | undefined): MarkSays | undefined =>
  tool?.startsWith('mark ') && tool !== 'mark like' ? (tool.slice('mark '.length) as MarkSays) : undefined;

/** Marks places of the picture for a match, as a tool of the table: one press, or two where a place is to look like another. */
export function useMarkTool(): Tool | undefined {
  const { bench } = useBenchParts();
  const actions = useActions();
  const at = useTarget();
  const { says, isSecond, finished } = useBench((s) => ({
    says: markInHand(s.tool),
    isSecond: s.tool === 'mark like',
    finished: showsFinished(s.session.station),
  }));
  // the place that waits for what it is to look like
  const first = useRef<Omit<PlacedMark, 'to'>>(undefined);
  return useMemo<Tool | undefined>(() => {
    if (!says && !isSecond) return undefined;
    let point: PicturePoint = { x: 0, y: 0 };
    const onPicture = ({ x, y }: PicturePoint): readonly [number, number] =>
      finished ? unstraightened(bench, x, y) : [x, y];
    const looks = (): readonly Look[] => {
      const { session, history } = bench.store.getState();
      return looksOf(session.station, history.project.sets[0]?.kind ?? 'bracket');
    };
    // only some stations can show a frame as it was shot
    const showsFrame = (): boolean =>
      bench.store.getState().session.look === 'shot' && looks().includes('shot');
    const keep = async (mark: PlacedMark): Promise<void> => {
      const marks = [...(matchAt(bench, at)?.marks ?? []), mark];
      await setMarks(bench, at, marks, newEditId(at, 'match'), TEXT.marked(TEXT.says[mark.says]));
    };
    const markFirst = async (says: MarkSays): Promise<void> => {
      // on a frame as it was shot lies another place
      if (showsFrame()) return actions.report(TEXT.onFrame);
      const [x, y] = onPicture(point);
      const from = await codeOfPlace(bench, at, x, y, 'found');
      if (!from) return actions.report(TEXT.nowhere);
      if (says !== 'same') return keep({ says, x, y, from });
      first.current = { says, x, y, from };
      actions.take('mark like');
      const frame = matchedFrame(bench.store.getState().history.project, at);
      if (frame !== undefined && looks().includes('shot')) actions.go({ look: 'shot', frame });
    };
    const markSecond = async (): Promise<void> => {
      const mark = first.current;
      const isFrame = showsFrame();
      const to = isFrame
        ? codeOfFrame(bench, bench.store.getState().session.frame ?? '', point.x, point.y)
        : await codeOfPlace(bench, at, ...onPicture(point), 'shown');
      if (!to || !mark) return actions.report(TEXT.nowhere);
      first.current = undefined;
      actions.take('mark same');
      if (isFrame) actions.go({ look: looks()[0] });
      await keep({ ...mark, to });
    };
    return {
      onStart: (pressed) => {
        point = pressed;
      },
      onMove: (points) => {
        point = points[points.length - 1] ?? point;
      },
      onEnd: () => {
        void (says ? markFirst(says) : markSecond());
      },
      // nothing was begun that would have to be taken back
      onCancel: () => undefined,
    };
  }, [actions, at, bench, finished, isSecond, says]);
}
