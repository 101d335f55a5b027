/** Small pieces that every room uses. */
import type { ButtonHTMLAttributes, ReactNode } from "react";
import { Problem } from "../api/client";

export function Button({ className = "", ...rest }: ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type="button"
      className={`shrink-0 whitespace-nowrap rounded border border-rule bg-paper px-2.5 py-1 hover:border-soft disabled:cursor-default disabled:text-soft disabled:hover:border-rule ${className}`}
      {...rest}
    />
  );
}

export function Link({ className = "", ...rest }: ButtonHTMLAttributes<HTMLButtonElement>) {
  return <button type="button" className={`text-left text-pen underline decoration-1 underline-offset-2 ${className}`} {...rest} />;
}

export const Heading = ({ children }: { children: ReactNode }) => <h2 className="text-xs font-semibold text-soft">{children}</h2>;

export const Key = ({ children }: { children: ReactNode }) => <kbd className="ml-1 font-mono text-[11px] text-soft">{children}</kbd>;

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
    <div role="progressbar" aria-label={label} aria-valuenow={Math.round(100 * share)} aria-valuemin={0} aria-valuemax={100} className="h-1.5 w-full bg-band">
      <div className="h-full bg-pen" style={{ width: `${100 * share}%` }} />
    </div>
  );
}
