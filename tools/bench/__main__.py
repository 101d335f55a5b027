"""`./gumption bench`: one part, or packs, wordings and names."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from gumption.cli.files import BadUsage
from tools.bench.heads import bench_heads
from tools.bench.names import bench_names
from tools.bench.packs import bench_packs
from tools.bench.parts import PARTS, bench
from tools.bench.wordings import bench_wordings


def parser() -> argparse.ArgumentParser:
    """What can be measured."""
    top = argparse.ArgumentParser(prog="gumption bench", description="Measure against yardsticks in the same run.")
    top.add_argument("--rows", type=int, default=5_000_000, help="rows of the large file")
    top.add_argument("--packs", nargs="+", default=(), metavar="DIR", help="score the question packs in these folders")
    top.add_argument("--wordings", metavar="DIR", help="the share understood of this bank of wordings")
    top.add_argument("--over", nargs="+", default=(), metavar="DIR", help="folders whose tables fill the wordings")
    top.add_argument("--share", type=float, default=1.0, help="share of the wordings that is tried (default: 1)")
    top.add_argument("--seed", type=int, default=7, help="which of the wordings such a share is (default: 7)")
    names = "look for names of packs that the reader knows, which it must not"
    top.add_argument("--names", nargs="+", type=Path, metavar="DIR", help=names)
    top.add_argument("--heads", type=int, metavar="N", help="plain questions of N variants of each kind of file")
    top.add_argument("--misspelled", action="store_true", help="with --heads: a slip in a word of each question")
    top.add_argument("--scale", type=float, default=1.0, help="scale of the TPC-H data (default: 1)")
    top.add_argument("--only", choices=PARTS, action="append", help="this part; may be given again")
    return top


def main(arguments: list[str] | None = None) -> int:
    """Measure; 0 where everything could be."""
    options = parser().parse_args(arguments)
    try:
        if options.packs:
            return bench_packs(options.packs)
        if options.heads:
            return bench_heads(options.heads, slips=options.misspelled)
        if options.names:
            return bench_names(options.names)
        if options.wordings:
            over = [Path(p).resolve() for p in options.over]
            return bench_wordings(Path(options.wordings), over, options.share, options.seed)
        return bench(options.rows, options.scale, tuple(options.only or PARTS))
    except BadUsage as error:
        sys.stderr.write(f"gumption bench: {error}\n")
        return 2


if __name__ == "__main__":
    raise SystemExit(main())
