/** The head of a column of rows. */
import { DropdownMenu } from "radix-ui";
import { useRef } from "react";
import type { Field, Order } from "../../api/client";
import { MENU, MENU_ITEM } from "../../ui/primitives";

/* Out of the way until the head is pointed at; where nothing can point, always there. */
const SHOWN = "opacity-0 group-hover/head:opacity-100 focus-visible:opacity-100 [@media(hover:none)]:opacity-100";

/** A column's head: pressed it sorts; its menu hides, freezes and adds up; its edge is drawn to make it wider. */
export function ColumnHead({
  field,
  order,
  onOrder,
  onHide,
  frozen,
  onFreeze,
  onSum,
  onPictures,
  pictured,
  onResize,
}: {
  field: Field;
  order: Order | null;
  onOrder: (order: Order | null) => void;
  onHide: () => void;
  frozen: boolean;
  onFreeze: () => void;
  onSum: (() => void) | null;
  /** Shows what the column's addresses lead to, or the addresses again; null where they lead to no pictures. */
  onPictures: (() => void) | null;
  pictured: boolean;
  onResize: (by: number) => void;
}) {
  const mine = order?.column === field.name ? order : null;
  // The first press puts the largest first, or the first letter; the third takes the order away.
  const next = () =>
    onOrder(
      mine === null
        ? { column: field.name, descending: field.measures }
        : mine.descending === field.measures
          ? { column: field.name, descending: !field.measures }
          : null,
    );
  const from = useRef(0);
  return (
    <span className={`group/head flex items-center ${field.measures ? "flex-row-reverse" : ""}`}>
      <button
        type="button"
        onClick={next}
        title={`Sort by ${field.label}`}
        className={`min-w-0 flex-1 truncate px-2 py-2 hover:text-ink ${field.measures ? "pl-0 text-right" : "pr-0 text-left"}`}
      >
        {field.label}
        {mine ? (mine.descending ? " ↓" : " ↑") : ""}
      </button>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger aria-label={`More of ${field.label}`} className={`px-1 text-soft ${SHOWN}`}>
          ⋮
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" className={MENU}>
            <DropdownMenu.Item
              className={MENU_ITEM}
              onSelect={() => onOrder({ column: field.name, descending: false })}
            >
              Lowest first
            </DropdownMenu.Item>
            <DropdownMenu.Item className={MENU_ITEM} onSelect={() => onOrder({ column: field.name, descending: true })}>
              Highest first
            </DropdownMenu.Item>
            <DropdownMenu.Item className={MENU_ITEM} onSelect={onFreeze}>
              {frozen ? "Let go" : "Keep in sight up to here"}
            </DropdownMenu.Item>
            <DropdownMenu.Item className={MENU_ITEM} onSelect={onHide}>
              Hide
            </DropdownMenu.Item>
            {onSum && (
              <DropdownMenu.Item className={MENU_ITEM} onSelect={onSum}>
                Total at the foot
              </DropdownMenu.Item>
            )}
            {onPictures && (
              <DropdownMenu.Item className={MENU_ITEM} onSelect={onPictures}>
                {pictured ? "Addresses again" : "Pictures, fetched from there"}
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className={MENU_ITEM} onSelect={() => onResize(40)}>
              Wider
            </DropdownMenu.Item>
            <DropdownMenu.Item className={MENU_ITEM} onSelect={() => onResize(-40)}>
              Narrower
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <span
        aria-hidden
        className={`absolute right-0 top-2 h-4 w-1.5 cursor-col-resize border-r-2 border-rule hover:border-pen ${SHOWN}`}
        onPointerDown={(e) => {
          from.current = e.clientX;
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={(e) => {
          if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
          onResize(e.clientX - from.current);
          from.current = e.clientX;
        }}
      />
    </span>
  );
}
