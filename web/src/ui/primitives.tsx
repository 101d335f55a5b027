/** Small pieces that every room uses. */
import { Dialog } from "radix-ui";
import {
  useRef,
  useState,
  type AnchorHTMLAttributes,
  type ButtonHTMLAttributes,
  type InputHTMLAttributes,
  type ReactNode,
} from "react";
import { Problem } from "../api/client";

const BUTTON =
  "shrink-0 whitespace-nowrap rounded border border-rule bg-paper px-2.5 py-1 hover:border-soft disabled:cursor-default disabled:text-soft disabled:hover:border-rule";

export function Button({ className = "", ...rest }: ButtonHTMLAttributes<HTMLButtonElement>) {
  return <button type="button" className={`${BUTTON} ${className}`} {...rest} />;
}

/** A link that looks like a button, for what the browser itself does best: saving a file. */
export const ButtonLink = ({ children, ...rest }: AnchorHTMLAttributes<HTMLAnchorElement>) => (
  <a className={BUTTON} {...rest}>
    {children}
  </a>
);

export function Link({ className = "", ...rest }: ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type="button"
      className={`text-left text-pen underline decoration-1 underline-offset-2 ${className}`}
      {...rest}
    />
  );
}

/** The look of a menu, and of what can be chosen in it. */
export const MENU = "z-20 min-w-48 rounded border border-rule bg-paper p-1 shadow-md";
export const MENU_ITEM = "block cursor-default rounded px-2.5 py-1 outline-none data-[highlighted]:bg-band";

export const Heading = ({ children }: { children: ReactNode }) => (
  <h2 className="text-xs font-semibold text-soft">{children}</h2>
);

export const Key = ({ children }: { children: ReactNode }) => (
  <kbd className="ml-1 font-mono text-[11px] text-soft">{children}</kbd>
);

/** An error in words, with what to do. */
export function ProblemNote({ error, again }: { error: unknown; again?: () => void }) {
  const known = error instanceof Problem ? error : new Problem("Something went wrong in this page.", "Reload it.");
  return (
    <div role="alert" className="border-l-2 border-stop py-1 pl-3">
      <p className="font-medium text-stop">{known.problem}</p>
      {known.advice && <p className="text-soft">{known.advice}</p>}
      {again && <Link onClick={again}>Try again</Link>}
    </div>
  );
}

export const Busy = ({ children }: { children: ReactNode }) => (
  <p role="status" className="text-soft">
    {children}
  </p>
);

export function ProgressBar({ share, label }: { share: number; label: string }) {
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuenow={Math.round(100 * share)}
      aria-valuemin={0}
      aria-valuemax={100}
      className="h-1.5 w-full bg-band"
    >
      <div className="h-full bg-pen" style={{ width: `${100 * share}%` }} />
    </div>
  );
}

/** A window over the page with a title, closed by Escape. */
export function Window({
  open,
  onClose,
  title,
  about,
  wide = false,
  children,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  about?: string;
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 veil" />
        <Dialog.Content
          className={`fixed left-1/2 top-[8vh] z-30 max-h-[84vh] -translate-x-1/2 overflow-y-auto rounded border border-rule bg-paper p-5 ${wide ? "w-[min(760px,94vw)]" : "w-[min(520px,94vw)]"}`}
          {...(about ? {} : { "aria-describedby": undefined })}
        >
          <Dialog.Title className="font-serif text-xl font-medium">{title}</Dialog.Title>
          {about && <Dialog.Description className="mt-1 text-soft">{about}</Dialog.Description>}
          <Dialog.Close className="absolute right-4 top-4 text-soft underline underline-offset-2">Close</Dialog.Close>
          <div className="mt-4">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const FIELD = "mt-0.5 block w-full rounded border border-rule bg-paper px-2 py-1 text-ink";

export function TextField({
  label,
  hint,
  className = "",
  ...rest
}: InputHTMLAttributes<HTMLInputElement> & { label: string; hint?: string }) {
  return (
    <label className={`block text-soft ${className}`}>
      {label}
      <input className={FIELD} {...rest} />
      {hint && <small className="block">{hint}</small>}
    </label>
  );
}

export function Choose<T extends string>({
  label,
  value,
  options,
  onChange,
  className = "",
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  className?: string;
}) {
  return (
    <label className={`block text-soft ${className}`}>
      {label}
      <select
        className={FIELD}
        value={value}
        onChange={(e) => onChange(options.find(([v]) => v === e.target.value)?.[0] ?? value)}
      >
        {options.map(([v, words]) => (
          <option key={v} value={v}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A place that something can be dropped on. */
export function DropPlace({
  className,
  onDrop,
  children,
}: {
  className: string;
  onDrop: (dropped: DataTransfer) => void;
  children: ReactNode;
}) {
  const [over, setOver] = useState(false);
  return (
    <div
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        onDrop(e.dataTransfer);
      }}
      className={`rounded border border-dashed p-3 text-center text-soft ${over ? "border-pen bg-paper" : "border-soft"} ${className}`}
    >
      {children}
    </div>
  );
}

/** A field in which something is looked for; its placeholder is its name. */
export const SearchField = ({
  label,
  className = "w-full",
  onChange,
  ...rest
}: Omit<InputHTMLAttributes<HTMLInputElement>, "onChange"> & { label: string; onChange: (sought: string) => void }) => (
  <input
    type="search"
    aria-label={label}
    placeholder={label}
    onChange={(e) => onChange(e.target.value)}
    className={`rounded border border-rule bg-paper px-2 py-1 ${className}`}
    {...rest}
  />
);

/** A link that lets files be picked; the field that the browser needs for it is out of sight. */
export function PickFiles({
  label,
  accept,
  multiple = false,
  onPick,
  children,
}: {
  label: string;
  accept: string;
  multiple?: boolean;
  onPick: (files: File[]) => void;
  children: ReactNode;
}) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <Link onClick={() => picker.current?.click()}>{children}</Link>
      <input
        ref={picker}
        type="file"
        multiple={multiple}
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        onChange={(e) => {
          onPick([...(e.target.files ?? [])]);
          e.target.value = "";
        }}
      />
    </>
  );
}
