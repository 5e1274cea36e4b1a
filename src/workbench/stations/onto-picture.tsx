import { type PointerEvent, useState } from "react";
import { Button, Menu, MenuTrigger } from "react-aria-components";
import { createPortal } from "react-dom";
import styled from "styled-components";
import { type Onto, type OntoColumn, placesOnto } from "../../core/advice/onto";
import { useDesk } from "../desk/desk-context";
import { Choices, PlainChoice } from "../frame/choices";
import { Quiet } from "../frame/kit";

const Name = styled(Button)`
  font: inherit;
  background: none;
  border: 0;
  padding: 2px 0;
  text-align: left;
  cursor: grab;
  touch-action: none;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  &[data-hovered],
  &[aria-expanded="true"] {
    color: var(--sea);
  }
`;

const Place = styled(PlainChoice)`
  code {
    font-family: var(--code);
    font-size: 13px;
    display: block;
  }
`;

const Over = styled.div`
  position: fixed;
  z-index: 30;
  background: color-mix(in srgb, var(--ground) 60%, transparent);
`;

const Zone = styled.div`
  position: absolute;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  text-align: center;
  border: 1px solid var(--rule);
  background: color-mix(in srgb, var(--sheet) 93%, transparent);
  padding: 4px;
  overflow: hidden;
  &.over {
    border: 2px solid var(--brass);
    background: var(--band);
  }
  code {
    font-family: var(--code);
    font-size: 12px;
    max-width: 100%;
    overflow-wrap: anywhere;
  }
`;

/** Where on the picture each place is, in percent of it: left, top, width, height. */
const ZONES: Record<Onto["key"], readonly [number, number, number, number]> = {
  color: [20, 0, 60, 17],
  y: [0, 18, 19, 62],
  size: [20, 18, 60, 62],
  panels: [81, 18, 19, 62],
  x: [20, 81, 60, 19],
  value: [0, 0, 100, 100],
  columns: [0, 0, 100, 100],
};

interface Drag {
  box: DOMRect;
  places: Onto[];
  over: Onto | undefined;
}

const zoneAt = ({ box, places }: Drag, { clientX, clientY }: PointerEvent): Onto | undefined => {
  const [x, y] = [((clientX - box.left) / box.width) * 100, ((clientY - box.top) / box.height) * 100];
  return places.find(({ key }) => {
    const [left, top, width, height] = ZONES[key];
    return x >= left && x < left + width && y >= top && y < top + height;
  });
};

/** How far a press may move and be a press still, in pixels. */
const STILL = 5;

interface Props {
  /** The chart that is large. */
  chart: string;
  column: OntoColumn;
  /** The picture that is dropped on. */
  picture: () => Element | null;
}

/** A column's name: pressed it says where it can be put, dragged the places on the picture say it themselves. */
export function ColumnOnto({ chart, column, picture }: Props) {
  const desk = useDesk();
  const [pressed, setPressed] = useState<{ x: number; y: number }>();
  const [drag, setDrag] = useState<Drag>();
  const [isOpen, setOpen] = useState(false);
  // Of the text as it stands at the moment: it may become another while a menu is open or a name is carried.
  const placesNow = () => placesOnto(desk.state.get().text, chart, column);
  const places = isOpen ? placesNow() : [];
  const take = (key: unknown) => desk.edit(placesNow().find((place) => place.key === key)?.edits);
  const move = (event: PointerEvent) => {
    if (drag) return setDrag({ ...drag, over: zoneAt(drag, event) });
    if (!pressed || Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) < STILL) return;
    const box = picture()?.getBoundingClientRect();
    if (!box) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setOpen(false);
    setDrag({ box, places: placesNow(), over: undefined });
  };
  const end = (isTaken: boolean) => {
    if (isTaken) take(drag?.over?.key);
    setPressed(undefined);
    setDrag(undefined);
  };
  return (
    <span
      onPointerDownCapture={(event) => event.button === 0 && setPressed({ x: event.clientX, y: event.clientY })}
      onPointerMove={move}
      onPointerUp={() => end(true)}
      onPointerCancel={() => end(false)}
    >
      <MenuTrigger trigger="press" isOpen={isOpen && !drag} onOpenChange={setOpen}>
        <Name aria-label={`${column.name}, ${column.kind}: where to put it`}>{column.name}</Name>
        <Choices placement="left top" style={{ width: 300 }}>
          <Menu onAction={take} renderEmptyState={() => <Quiet>it has no place on this one</Quiet>}>
            {places.map((place) => (
              <Place key={place.key} id={place.key} textValue={`${place.words}: ${place.formula}`}>
                <b>{place.words}</b>
                {place.before === undefined ? "" : ` instead of ${place.before}`}
                <code>{place.formula}</code>
              </Place>
            ))}
          </Menu>
        </Choices>
      </MenuTrigger>
      {drag && createPortal(<Zones drag={drag} />, document.body)}
    </span>
  );
}

function Zones({ drag: { box, places, over } }: { drag: Drag }) {
  return (
    <Over style={{ left: box.left, top: box.top, width: box.width, height: box.height }} role="status">
      {places.map((place) => {
        const [left, top, width, height] = ZONES[place.key];
        return (
          <Zone
            key={place.key}
            className={place === over ? "over" : ""}
            style={{ left: `${left}%`, top: `${top}%`, width: `${width}%`, height: `${height}%` }}
          >
            <b>{place.words}</b>
            <code>{place.formula}</code>
          </Zone>
        );
      })}
    </Over>
  );
}
