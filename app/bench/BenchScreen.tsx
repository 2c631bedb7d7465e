'use client';
import { memo, startTransition, useCallback, useEffect, useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { type Place } from '@/core/proof/finding';
import { problemSentence } from '@/core/proof/problem';
import { pictureGrid, setGrid } from '@/core/recipe/pictureGrid';
import { isOfSet } from '@/core/view/viewScene';
import { findEdit } from '@/core/edits/ranked';
import { type MergeMethod } from '@/core/recipe/project';
import { plates, referenceOf } from '@/core/recipe/setFrames';
import { cropInForce } from '@/store/cropInForce';
import { renderTogether } from '@/engine/renderTogether';
import { isCancelled, type WorkerPool } from '@/engine/workerPool';
import { type Bench } from '@/store/benchState';
import { type Look, type Station } from '@/store/session';
import {
  BenchProvider,
  useActions,
  useBench,
  useBenchParts,
  useCompared,
  useFrames,
  useHasScene,
  useMerged,
  useScope,
  useSceneSource,
} from '@/stations/benchContext';
import { FinishOverlay } from '@/stations/finish/Overlay';
import { FinishPanel } from '@/stations/finish/Panel';
import { FinishTray } from '@/stations/finish/Tray';
import { FitOverlay } from '@/stations/fit/Overlay';
import { FitPanel } from '@/stations/fit/Panel';
import { FitTray } from '@/stations/fit/Tray';
import { ArrivingPicture } from '@/stations/frames/ArrivingFrames';
import { FramesOverlay } from '@/stations/frames/Overlay';
import { FramesPanel } from '@/stations/frames/Panel';
import { FramesTray } from '@/stations/frames/Tray';
import { GroundOverlay } from '@/stations/ground/Overlay';
import { GroundPanel } from '@/stations/ground/Panel';
import { GroundTray } from '@/stations/ground/Tray';
import { useGroundTool } from '@/stations/ground/useGroundTool';
import { LayersOverlay } from '@/stations/layers/Overlay';
import { LayersPanel } from '@/stations/layers/Panel';
import { LayersTray } from '@/stations/layers/Tray';
import { useBrush } from '@/stations/layers/useBrush';
import { usePlaceTool } from '@/stations/layers/usePlaceTool';
import { useChartTool } from '@/stations/edits/chart/useChartTool';
import { useMarkTool } from '@/stations/edits/match/useMarkTool';
import { useOpenEditId } from '@/stations/edits/useOpenEdit';
import { useOpenMatch } from '@/stations/edits/match/useOpenMatch';
import { RegionMarks } from '@/stations/regions/RegionMarks';
import { useDabTool } from '@/stations/regions/useDabTool';
import { usePartTool } from '@/stations/regions/usePartTool';
import { looksOf, showsFinished } from '@/stations/looks';
import { MatchOverlay } from '@/stations/match/Overlay';
import { MatchPanel } from '@/stations/match/Panel';
import { MatchTray } from '@/stations/match/Tray';
import { MergeOverlay } from '@/stations/merge/Overlay';
import { MergePanel } from '@/stations/merge/Panel';
import { MERGE_TEXT } from '@/stations/merge/text';
import { MergeTray } from '@/stations/merge/Tray';
import { useFrameDabTool } from '@/stations/merge/useFrameDabTool';
import { DrawnMarks } from '@/stations/overlay/DrawnMarks';
import { OverlaySvg, PlaceMark } from '@/stations/overlay/PlaceMark';
import { useDrawTool } from '@/stations/overlay/useDrawTool';
import { WatchPoints } from '@/stations/overlay/WatchPoints';
import { WipeLine } from '@/stations/overlay/WipeLine';
import { ProofOverlay } from '@/stations/proof/Overlay';
import { ProofPanel } from '@/stations/proof/Panel';
import { ProofTray } from '@/stations/proof/Tray';
import { type RenderArea } from '@/ui/table/sheetLoader';
import { followable } from '@/ui/followable';
import { Table } from '@/ui/table/Table';
import { type PicturePoint } from '@/ui/table/tool';
import { beside, fitAll, showPlace, type Size, type Viewport } from '@/ui/table/viewport';
import { COLOUR, TABLET, UPRIGHT } from '@/ui/tokens';
import { DropArea } from './DropArea';
import { loadRest } from './loadRest';
import { LookBar } from './LookBar';
import { Notices } from './Notices';
import { PlacedLine } from './PlacedLine';
import { Problems } from './Problems';
import { Sheet } from './Sheet';
import { TopBar } from './TopBar';
import { TraceCard } from './TraceCard';
import { STATION_NAMES, Trail } from './Trail';
import { useBenchCommands } from './useBenchCommands';
import { useBeforeKey } from './useBeforeKey';
import { useBenchKey, useBenchKeys } from './useBenchKeys';
import { useEditKeys } from './useEditKeys';
import { useViews } from './useViews';

const Screen = styled.main`
  display: grid;
  grid-template: 40px minmax(0, 1fr) / 208px minmax(0, 1fr) 312px;
  height: 100dvh;
  /* what is hidden may be scrolled to by a script, and the bench would leave the window */
  overflow: clip;
  ${TABLET} {
    grid-template: 52px minmax(0, 1fr) / 92px minmax(0, 1fr) auto;
  }
  ${UPRIGHT} {
    grid-template: 52px 62px minmax(0, 1fr) auto / minmax(0, 1fr);
  }
`;

const Centre = styled.div`
  display: grid;
  grid-template-rows: 40px minmax(0, 1fr) 176px;
  min-width: 0;
  @media (pointer: coarse) {
    grid-template-rows: 52px minmax(0, 1fr) 190px;
  }
  min-height: 0;
`;

const Stage = styled.div`
  position: relative;
  background: ${COLOUR.table};
  &[data-beside] {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 2px;
    > [role='application'] {
      position: relative;
      min-width: 0;
    }
  }
`;

const TrayBox = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  border-top: 1px solid ${COLOUR.line};
  min-width: 0;
  overflow: hidden;
  > div {
    min-width: 0;
    overflow: hidden;
  }
`;

// they follow the store by themselves; a stroke that redraws the table need not redraw them
const STATIONS = {
  frames: { Panel: memo(FramesPanel), Tray: memo(FramesTray) },
  fit: { Panel: memo(FitPanel), Tray: memo(FitTray) },
  merge: { Panel: memo(MergePanel), Tray: memo(MergeTray) },
  layers: { Panel: memo(LayersPanel), Tray: memo(LayersTray) },
  match: { Panel: memo(MatchPanel), Tray: memo(MatchTray) },
  ground: { Panel: memo(GroundPanel), Tray: memo(GroundTray) },
  finish: { Panel: memo(FinishPanel), Tray: memo(FinishTray) },
  proof: { Panel: memo(ProofPanel), Tray: memo(ProofTray) },
} as const;

const FixedTopBar = memo(TopBar);
const FixedTrail = memo(Trail);

/** The bench: trail, table, tray and panel around one project. */
export function BenchScreen({ bench, viewer }: { bench: Bench; viewer: WorkerPool }) {
  const [mark, setMark] = useState<Place>();
  useEffect(loadRest, []);
  const clearMark = useCallback(() => setMark(undefined), []);
  const [table, setTable] = useState<Size>({ width: 1, height: 1 });
  const parts = useMemo(
    () => ({
      bench,
      viewer,
      showPlace: (place: Place, frame?: string) => {
        setMark(place);
        const { session } = bench.store.getState();
        const look = frame ? 'clipping' : session.look;
        const viewport = showPlace(place, table);
        bench.actions.go({ viewport, look, ...(frame ? { frame } : {}) });
      },
    }),
    [bench, viewer, table],
  );
  return (
    <BenchProvider value={parts}>
      <DropArea>
        <Layout mark={mark} clearMark={clearMark} table={table} onTable={setTable} />
      </DropArea>
    </BenchProvider>
  );
}

const sizeOf = (grid: Size | undefined): Size | undefined =>
  grid && { width: grid.width, height: grid.height };

interface LayoutProps {
  readonly mark: Place | undefined;
  readonly clearMark: () => void;
  /** size of the table, screen pixels */
  readonly table: Size;
  readonly onTable: (size: Size) => void;
}

function Layout({ mark, clearMark, table, onTable }: LayoutProps) {
  const { viewer } = useBenchParts();
  const actions = useActions();
  const session = useBench((s) => s.session);
  // of the recipe only what places things on the screen: a slider that moves must not draw all of it anew
  const scope = useScope();
  const { kind, method } = scope?.set ?? { kind: 'bracket' as const, method: 'fusion' as const };
  const reference = scope && referenceOf(scope);
  const alone = useBench((s) => plates(s.history.project));
  const shots = useMemo(() => [...(scope?.frames ?? []), ...alone], [scope, alone]);
  const whole = useBench(({ history: { project } }) => sizeOf(pictureGrid(project)));
  const ofSet = useMemo(() => sizeOf(scope && setGrid(scope)), [scope]);
  const crop = useBench((s) =>
    showsFinished(s.session.station) ? cropInForce(s.history.project) : undefined,
  );
  const isMerged = useMerged() !== undefined;
  const hasScene = useHasScene();
  const source = useSceneSource();
  const compared = useCompared();
  const frames = useFrames();
  const brush = useBrush();
  const { tool: drawTool, drawn } = useDrawTool();
  const placeTool = usePlaceTool();
  const partTool = usePartTool();
  const { tool: dabTool, drawn: drawnDab } = useDabTool();
  const { tool: frameTool, drawn: drawnFor } = useFrameDabTool();
  const markTool = useMarkTool();
  const chartTool = useChartTool();
  const { tool: groundTool, drawn: drawnUpright } = useGroundTool();
  const sharpen = useBench((s) => findEdit(s.history.project.edits, 'sharpen'));
  const edit = useOpenEditId();
  const [tracing, setTracing] = useState(false);
  const toggleTrace = useCallback(() => setTracing((on) => !on), []);
  // it moves all the time, and only what shows it is drawn anew
  const [pointer] = useState(() => followable<PicturePoint | undefined>(undefined));
  const [wipe, setWipe] = useState<number>();
  const { station } = session;
  const match = useOpenMatch();
  const isMatching = match !== undefined;
  const looks = useMemo(() => looksOf(station, kind, isMatching), [station, kind, isMatching]);
  const look = looks.includes(session.look) ? session.look : looks[0];
  // a frame as it was shot has its own size, the picture may have another
  const shotFrame = shots.find((f) => f.id === session.frame) ?? reference;
  const wipeAt = wipe ?? (whole?.width ?? 1) / 2;
  const shown = useViews(look, {
    ...{ station, session, wipeAt, edit, sharpen },
    reference: reference?.id ?? '',
    frame: shots.some((f) => f.id === session.frame) ? session.frame : (reference?.id ?? ''),
    compared: compared?.id,
    matched: match?.onGrid,
  });
  // a frame as it was shot has its own size, a set its own grid, the picture may have another
  const grid =
    look === 'shot' || look === 'clipping'
      ? shotFrame
      : isOfSet(shown.view) || look === 'methods'
        ? ofSet
        : whole;
  const picture = useMemo<Size>(
    () => ({ width: grid?.width ?? 1, height: grid?.height ?? 1 }),
    [grid?.width, grid?.height],
  );
  const render = useCallback<RenderArea>(
    (from, view, level, area) => renderTogether(viewer, from, view, level, area),
    [viewer],
  );
  const onFailure = useCallback(
    (thrown: unknown): void => {
      if (!isCancelled(thrown)) actions.report(problemSentence(thrown, 'Drawing what is on the table'));
    },
    [actions],
  );
  const onViewport = useCallback((viewport: Viewport | undefined) => actions.go({ viewport }), [actions]);
  const onLook = useCallback((next: Look) => actions.go({ look: next }), [actions]);
  const goTo = useCallback(
    (next: Station): void => {
      clearMark();
      actions.take(undefined);
      // another panel, tray and overlay: drawn in pieces, so that a key pressed meanwhile is heard
      startTransition(() => actions.go({ station: next, look: looksOf(next, kind)[0] }));
    },
    [actions, clearMark, kind],
  );
  const toggleZoom = useCallback((): void => {
    const whole = session.viewport === undefined;
    const at = pointer.get() ?? { x: picture.width / 2, y: picture.height / 2 };
    actions.go({ viewport: whole ? { zoom: 1 / window.devicePixelRatio, ...at } : undefined });
  }, [actions, picture, pointer, session.viewport]);
  const nextLook = useCallback((): void => {
    actions.go({ look: looks[(looks.indexOf(look) + 1) % looks.length] });
  }, [actions, look, looks]);
  useBenchKeys({
    onStation: goTo,
    onUndo: actions.undo,
    onRedo: actions.redo,
    onZoom: toggleZoom,
    onNextLook: nextLook,
  });
  useBenchKey('t', toggleTrace);
  useBenchKey(
    'w',
    useCallback(() => actions.take('watch'), [actions]),
  );
  useBeforeKey(looks);
  const { greys = false } = session;
  const toggleGreys = useCallback(() => actions.go({ greys: !greys }), [actions, greys]);
  useBenchKey('l', toggleGreys);
  useBenchKey(
    'escape',
    useCallback(() => actions.take(undefined), [actions]),
  );

  const { toggle: toggleEdit, halve: halveEdit } = useEditKeys();
  const { commands, more } = useBenchCommands({
    ...{
      looks,
      set: scope?.set.id ?? '',
      goTo,
      nextLook,
      toggleZoom,
      toggleTrace,
      toggleEdit,
      halveEdit,
      toggleGreys,
    },
  });
  const { Panel, Tray } = STATIONS[station];
  const nameOf = (id: string): string => frames.find((f) => f.frame.id === id)?.name ?? '';
  const wipeNames =
    look === 'before'
      ? { left: 'Before', right: 'Now' }
      : look === 'methods'
        ? methodNames(method)
        : {
            left: reference ? `${nameOf(reference.id)}, reference` : '',
            right: station === 'merge' ? 'Result' : nameOf(compared?.id ?? ''),
          };
  // what a match is like, else the frame that was chosen
  const other = look === 'beside' ? (shots.find((f) => f.id === match?.frame) ?? shotFrame) : undefined;
  const overlay = (viewport: Viewport) => (
    <>
      {station === 'frames' && <FramesOverlay viewport={viewport} table={table} />}
      {station === 'fit' && <FitOverlay viewport={viewport} table={table} />}
      {station === 'merge' && <MergeOverlay viewport={viewport} table={table} drawn={drawnFor} />}
      {['layers', 'match', 'finish'].includes(station) && (
        <RegionMarks viewport={viewport} table={table} {...(drawnDab ? { drawn: drawnDab } : {})} />
      )}
      {!placeTool && !partTool && !dabTool && brush && (
        <LayersOverlay
          viewport={viewport}
          table={table}
          pointer={pointer}
          longEdge={Math.max(picture.width, picture.height)}
        />
      )}
      {station === 'finish' && isMerged && <FinishOverlay viewport={viewport} table={table} />}
      {station === 'ground' && <GroundOverlay viewport={viewport} table={table} drawn={drawnUpright} />}
      {station === 'match' && <MatchOverlay viewport={viewport} table={table} />}
      {station === 'proof' && <ProofOverlay viewport={viewport} table={table} />}
      {drawn && <DrawnMarks drawn={drawn} viewport={viewport} table={table} />}
      {shown.pairing?.kind === 'wipe' && hasScene && (
        <WipeLine
          at={wipeAt}
          onMove={setWipe}
          {...wipeNames}
          viewport={viewport}
          table={table}
          picture={picture}
        />
      )}
      {mark && (
        <OverlaySvg aria-hidden>
          <PlaceMark place={mark} viewport={viewport} table={table} />
        </OverlaySvg>
      )}
    </>
  );
  return (
    <Screen>
      <FixedTopBar commands={commands} more={more} />
      <FixedTrail onGo={goTo} />
      <Centre>
        <LookBar
          options={looks}
          look={look}
          onLook={onLook}
          zoom={
            (session.viewport ?? fitAll(picture, table)).zoom *
            (typeof window === 'undefined' ? 1 : window.devicePixelRatio)
          }
          onZoom={toggleZoom}
          view={shown.view}
          pointer={pointer}
          greys={greys}
          onGreys={toggleGreys}
        />
        <Stage data-beside={other ? '' : undefined}>
          <Table
            label={`Picture, ${STATION_NAMES[station]}`}
            source={source}
            extent={picture}
            {...shown}
            crop={crop}
            greys={greys}
            viewport={session.viewport}
            onViewport={onViewport}
            render={render}
            onFailure={onFailure}
            tool={
              drawTool ??
              frameTool ??
              groundTool ??
              markTool ??
              chartTool ??
              dabTool ??
              partTool ??
              placeTool ??
              brush
            }
            onPoint={pointer.set}
            onSize={onTable}
            overlay={overlay}
          />
          {other && (
            <Table
              label={`Beside it: ${other.file}`}
              source={source}
              extent={other}
              view={{ kind: 'shot', frame: other.id, clipping: false }}
              greys={greys}
              viewport={session.viewport && beside(session.viewport, picture, other)}
              onViewport={(next) => onViewport(next && beside(next, other, picture))}
              render={render}
              onFailure={onFailure}
            />
          )}
          <ArrivingPicture />
          {tracing && (
            <TraceCard view={shown.view} pointer={pointer} onGo={goTo} onClose={() => setTracing(false)} />
          )}
          <Notices>
            <Problems />
            <PlacedLine />
          </Notices>
        </Stage>
        <TrayBox>
          <div>
            <Tray />
          </div>
          <WatchPoints finished={showsFinished(station)} />
        </TrayBox>
      </Centre>
      <Sheet name={STATION_NAMES[station]}>
        <Panel />
      </Sheet>
    </Screen>
  );
}

/** Which method lies on which side of the wipe. */
function methodNames(method: MergeMethod): { left: string; right: string } {
  const other = method === 'fusion' ? 'radiance' : 'fusion';
  return { left: MERGE_TEXT.methods[method], right: MERGE_TEXT.methods[other] };
}
