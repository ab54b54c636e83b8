import { useCallback, useEffect, useRef, useState } from 'react';
import { shallowEqual } from 'react-redux';
import { ActionIcon, Loader } from '@mantine/core';
import { IconGripVertical, IconPlus } from '@tabler/icons-react';
import { findNode, isBlock } from '@carafe/core/template';
import { store, useAppDispatch, useAppSelector, type RootState } from '../../app/store';
import { holdKeys } from '../../parts/holdKeys';
import { AddAtEnd } from './AddAtEnd';
import { AddBlock } from './AddBlock';
import { beginDrag, endDrag } from './dragging';
import { useCanvasDrop } from './useCanvasDrop';
import { deskActions } from './deskSlice';
import { EnvelopeLine } from './EnvelopeLine';
import { boxesOf, fieldAt, nodeAt, type Box, type FieldBox } from './frame';
import { Instead } from './Instead';
import { useMeasuring } from './measuring';
import { showMail, type Rest } from './showMail';
import { editableAt, inPlaceField } from './inPlaceField';
import type { Filled } from './worker/messages';
import { useFit } from './useFit';
import { InPlace } from './InPlace';
import { useDesk } from './useDesk';
import { narrowedTo } from './narrowed';
import classes from './Canvas.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

const EMPTY = '<!doctype html><html><head></head><body></body></html>';
const PHONE = 375;
/** How much wider than an email the window around it is shown, in pixels. */
const AROUND = 80;

/** The mail itself, filled for the recipient shown, in a frame without scripts. */
export function Canvas() {
  const dispatch = useAppDispatch();
  const selected = useAppSelector((s) => s.desk.selected);
  const view = useAppSelector((s) => s.desk.view);
  const search = useAppSelector((s) => s.desk.search);
  const filter = useAppSelector((s) => s.desk.filter);
  const total = useAppSelector((s) => s.desk.total);
  const place = useAppSelector(placeOf, shallowEqual);
  const { filled, problem, setPainter } = useDesk();
  const frame = useRef<HTMLIFrameElement>(null);
  const [loaded, setLoaded] = useState(0);
  const [boxes, setBoxes] = useState<Box[]>([]);
  const [height, setHeight] = useState(600);
  /** The words that are edited in place, where a block has several. */
  const [words, setWords] = useState<FieldBox | null>(null);
  const [hovered, setHovered] = useState<string | null>(null);
  const editing = useAppSelector((s) => s.desk.editing);
  const also = useAppSelector((s) => s.desk.also);
  const said = useAppSelector((s) => s.desk.said);
  const sheet = useRef<HTMLDivElement>(null);
  const mailWidth = useAppSelector((s) => s.desk.template?.style.width ?? 600);
  const isPhone = view.width === 'phone';
  const { pane, width, scale } = useFit(isPhone ? PHONE : mailWidth + AROUND);
  const chosen = useRef<HTMLDivElement>(null);
  /** What was last selected by a click: it is seen already. */
  const clicked = useRef<string | null>(null);

  const boxesNow = useRef<Box[]>([]);
  /** What is out of sight of the mail that is painted, and still to come. */
  const rest = useRef<Rest | null>(null);
  const measuring = useMeasuring(() => {
    const page = frame.current?.contentDocument;
    if (!page) return;
    rest.current?.();
    rest.current = null;
    boxesNow.current = boxesOf(page);
    setHeight(page.body.scrollHeight);
    setBoxes(boxesNow.current);
  });
  /** The boxes as they are: measured now where that is still to come. */
  const boxesHere = useCallback(() => {
    if (measuring.isDue) measuring.now();
    return boxesNow.current;
  }, [measuring]);
  /** The mail is seen first; the boxes of its nodes follow in the frame after. */
  const measureLater = useCallback(() => measuring.soon(), [measuring]);

  const shown = useRef<Filled | null>(null);
  const paint = useCallback(
    (mail: Filled) => {
      const page = frame.current?.contentDocument;
      if (!page) return;
      shown.current = mail;
      const { html } = mail.mail;
      const isOut = outOfSight(sheet.current, boxesNow.current);
      rest.current = showMail(page, html, mail.formulas, view, isOut);
      // Set at once, and known to the page with the boxes.
      if (frame.current) frame.current.style.height = `${page.body.scrollHeight}px`;
      measureLater();
      document.documentElement.dataset['painted'] = String(mail.turn);
    },
    [view, measureLater],
  );
  useEffect(() => {
    if (!loaded) return undefined;
    setPainter(paint);
    return () => setPainter(null);
  }, [loaded, paint, setPainter]);
  // What came before the frame was ready, and another way of looking at the same mail.
  useEffect(() => {
    const latest = shown.current ?? filled;
    if (loaded && latest) paint(latest);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is filled anew paints itself
  }, [loaded, paint, filled === null]);

  // Pictures that arrive and another width move everything below them.
  useEffect(() => {
    const page = frame.current?.contentDocument;
    if (!page || !loaded) return undefined;
    const observer = new ResizeObserver(measureLater);
    observer.observe(page.body);
    // The frame lays itself out after the page around it: it is measured when both have.
    window.addEventListener('resize', measureLater);
    // Panels beside it come and go without the window's size changing.
    const inside = page.defaultView;
    inside?.addEventListener('resize', measureLater);
    if (sheet.current) observer.observe(sheet.current);
    return () => {
      inside?.removeEventListener('resize', measureLater);
      observer.disconnect();
      window.removeEventListener('resize', measureLater);
    };
  }, [loaded, measureLater]);

  const measureNow = useRef(measureLater);
  const { line: fallLine, watch } = useCanvasDrop(boxesHere);
  const onLoad = useCallback(() => {
    const page = frame.current?.contentDocument;
    if (!page) return;
    page.addEventListener('click', (event) => {
      event.preventDefault();
      frame.current?.parentElement?.focus({ preventScroll: true });
      clicked.current = nodeAt(boxesHere(), event.clientX, event.clientY);
      dispatch(deskActions.selected(clicked.current));
    });
    watch(page);
    page.addEventListener('dblclick', (event) => {
      event.preventDefault();
      const words = fieldAt(page, event.clientX, event.clientY);
      const { template: now } = store.getState().desk;
      const node = words && now ? findNode(now, words.node)?.node : undefined;
      const own = words && node && editableAt(node, words.path) ? words : null;
      setWords(own);
      const at = own?.node ?? nodeAt(boxesHere(), event.clientX, event.clientY);
      const found = at && now ? findNode(now, at)?.node : undefined;
      // What is typed before the words are open is typed there.
      if (own || inPlaceField(found)) holdKeys({ mayStayShut: true });
      dispatch(deskActions.editing(at));
    });
    page.addEventListener('mousemove', (event) =>
      setHovered(nodeAt(boxesHere(), event.clientX, event.clientY)),
    );
    page.addEventListener('mouseleave', () => setHovered(null));
    page.addEventListener('load', () => measureNow.current(), true);
    // The frame's document comes anew with each load: what watches it starts over.
    setLoaded((n) => n + 1);
  }, [boxesHere, dispatch, watch]);

  /** What was edited is selected still, and the keys of the desk work on. */
  const onDone = useCallback(() => {
    dispatch(deskActions.editing(null));
    setWords(null);
    sheet.current?.focus({ preventScroll: true });
  }, [dispatch]);

  const box = boxes.find((b) => b.node === selected);
  // What was selected elsewhere, added or moved comes into view.
  const top = box?.top;
  useEffect(() => {
    if (selected !== clicked.current && top !== undefined)
      chosen.current?.scrollIntoView({ block: 'nearest' });
  }, [selected, top]);
  const hover = hovered !== selected ? boxes.find((b) => b.node === hovered) : undefined;
  const editable = editing !== null && editing === selected ? editing : null;
  // While nobody fits what is looked for, nobody's mail is shown.
  const nobody = narrowedTo(search, filter) !== '' && total === 0;
  const canAdd = box && place?.isBlock && !place.isElse;

  return (
    <section ref={pane} className={classes.pane} aria-label={t('canvas')}>
      <div role="status" className="only-read">
        {said}
      </div>
      {!nobody && <EnvelopeLine />}
      {filled?.held && <p className={classes.peek}>{t('thisRecipientGetsNoEmailThe')}</p>}
      <Instead />
      {scale < 1 && (
        <p className={classes.scaled}>
          {t('shownAtScaleToFitWhich', {
            scale: Math.round(scale * 100),
            which: isPhone ? t('aPhone') : t('aDesktop'),
            width,
          })}
        </p>
      )}
      <div
        ref={sheet}
        data-mail
        className={classes.sheet}
        style={{
          width,
          ...(scale < 1 && {
            transform: `scale(${scale})`,
            transformOrigin: '0 0',
            // What is drawn smaller takes as much room as before: the rest of it is given back.
            marginBottom: (scale - 1) * height,
            marginRight: (scale - 1) * width,
          }),
        }}
        tabIndex={0}
        role="group"
        aria-label={t('theEmailEnterEditsTheSelected')}
      >
        <iframe
          ref={frame}
          title={t('theEmailAsThisRecipientGets')}
          sandbox="allow-same-origin"
          srcDoc={EMPTY}
          onLoad={onLoad}
          className={classes.frame}
          style={{ height }}
          tabIndex={-1}
        />
        {!filled && !problem && (
          <div className={classes.waiting}>
            <Loader size="sm" /> {t('fillingTheEmail')}
          </div>
        )}
        {nobody && (
          <div className={classes.nobody}>
            {t('nobodyMatches')} {narrowedTo(search, filter)}
            {t('removeAFilterOrShowEveryone')}
          </div>
        )}
        {problem && (
          <div className={classes.problem} role="alert">
            {problem}
          </div>
        )}
        {boxes
          .filter(({ node }) => also.includes(node))
          .map((one, i) => (
            <div key={i} className={classes.chosen} style={position(one)} />
          ))}
        {hover && <div className={classes.hover} style={position(hover)} />}
        {box && !editable && (
          <div ref={chosen} className={classes.chosen} style={position(box)} data-testid="chosen">
            {place && !place.isElse && (
              <span
                className={classes.grip}
                draggable
                title={t('dragToAnotherPlace')}
                onDragStart={({ dataTransfer }) => beginDrag(place.id, dataTransfer)}
                onDragEnd={endDrag}
              >
                <IconGripVertical size={14} aria-hidden />
              </span>
            )}
          </div>
        )}
        {fallLine && <div className={classes.fall} style={fallLine} data-testid="fall" />}
        {box && canAdd && !editable && (
          <div
            className={classes.gap}
            style={{ top: box.top + box.height, left: box.left + box.width / 2 }}
          >
            <AddBlock after={place.id}>
              <ActionIcon size="sm" radius="xl" aria-label={t('addABlockBelow')}>
                <IconPlus size={14} />
              </ActionIcon>
            </AddBlock>
          </div>
        )}
        {box && editable && (
          <InPlace
            key={editable}
            id={editable}
            box={box}
            words={words?.node === editable ? words : null}
            onDone={onDone}
          />
        )}
      </div>
      {filled && !nobody && <AddAtEnd width={Math.round(width * scale)} />}
    </section>
  );
}

/** So near to what is seen a section counts as seen, in pixels: those before it may become shorter. */
const NEAR = 250;

/** Which nodes of a mail stood far out of sight when they were last measured. */
function outOfSight(sheet: HTMLElement | null, boxes: readonly Box[]): (node: string) => boolean {
  const pane = sheet?.parentElement?.getBoundingClientRect();
  if (!sheet || !pane) return () => false;
  const { top, width } = sheet.getBoundingClientRect();
  const scale = width / sheet.offsetWidth;
  const out = boxes.filter(
    (box) =>
      top + scale * box.top > pane.bottom + NEAR ||
      top + scale * (box.top + box.height) < pane.top - NEAR,
  );
  const nodes = new Set(out.map(({ node }) => node));
  return (node) => nodes.has(node);
}

/** Which node is selected, and how it stands; what is written in it draws nothing anew. */
function placeOf({ desk: { template, selected } }: RootState) {
  const place = template && selected ? findNode(template, selected) : undefined;
  return place && { id: place.node.id, isBlock: isBlock(place.node), isElse: place.isElse };
}

function position(box: Box) {
  return { left: box.left, top: box.top, width: box.width, height: box.height };
}
