"""The 22 queries of the TPC-H benchmark (specification 3, with the parameters of its validation runs) as plans."""

from __future__ import annotations

from collections.abc import Callable
from decimal import Decimal

from gumption.cli.brief import (
    arithmetic,
    compare,
    day,
    derive,
    equal,
    group,
    join,
    keep,
    one_of,
    pick,
    plan,
    sort,
    text,
    value,
    within,
    work,
    year,
)
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Constant, Expression
from gumption.core.plan.steps import Plan, Step

REVENUE = derive("revenue_part", arithmetic("*", "l_extendedprice", arithmetic("-", 1, "l_discount")))


def _or_nought(when: Expression, then: str) -> Expression:
    return ex.Case(branches=(ex.Branch(when=when, then=value(then)),), otherwise=value(0))


def _q1() -> Plan:
    return plan(
        "lineitem",
        keep(compare("<=", "l_shipdate", day("1998-09-02"))),
        REVENUE,
        derive("charge", arithmetic("*", "revenue_part", arithmetic("+", 1, "l_tax"))),
        group(
            "l_returnflag l_linestatus",
            work("sum_qty", "sum", "l_quantity"),
            work("sum_base_price", "sum", "l_extendedprice"),
            work("sum_disc_price", "sum", "revenue_part"),
            work("sum_charge", "sum", "charge"),
            work("avg_qty", "mean", "l_quantity"),
            work("avg_price", "mean", "l_extendedprice"),
            work("avg_disc", "mean", "l_discount"),
            work("count_order", "count"),
        ),
        sort("l_returnflag", "l_linestatus"),
    )


def _q2() -> Plan:
    least = st.Window(name="least", function="lowest", column="ps_supplycost", within=("ps_partkey",))
    shown = ["s_acctbal", "s_name", "n_name", "ps_partkey=p_partkey", "p_mfgr", "s_address", "s_phone", "s_comment"]
    return plan(
        "partsupp",
        join("part", "ps_partkey=p_partkey"),
        join("supplier", "ps_suppkey=s_suppkey"),
        join("nation", "s_nationkey=n_nationkey"),
        join("region", "n_regionkey=r_regionkey"),
        keep(
            compare("=", "p_size", 15),
            ex.PatternMatch(value=value("p_type"), pattern="BRASS$"),
            equal("r_name", "EUROPE"),
        ),
        least,
        keep(compare("=", "ps_supplycost", "least")),
        # The joined key has its own name only beside the other side's.
        st.Pick(columns=tuple(st.Picked(column=a, name=b or a) for a, _, b in (n.partition("=") for n in shown))),
        sort("-s_acctbal", "n_name", "s_name", "p_partkey"),
        st.Limit(rows=100),
    )


def _q3() -> Plan:
    return plan(
        "lineitem",
        keep(compare(">", "l_shipdate", day("1995-03-15"))),
        join(plan("orders", keep(compare("<", "o_orderdate", day("1995-03-15")))), "l_orderkey=o_orderkey"),
        join(plan("customer", keep(equal("c_mktsegment", "BUILDING"))), "o_custkey=c_custkey"),
        REVENUE,
        group("l_orderkey o_orderdate o_shippriority", work("revenue", "sum", "revenue_part")),
        pick("l_orderkey", "revenue", "o_orderdate", "o_shippriority"),
        sort("-revenue", "o_orderdate"),
        st.Limit(rows=10),
    )


def _q4() -> Plan:
    late = plan("lineitem", keep(compare("<", "l_commitdate", "l_receiptdate")))
    return plan(
        "orders",
        keep(*within("o_orderdate", "1993-07-01", "1993-10-01")),
        join(late, "o_orderkey=l_orderkey", how="with"),
        group("o_orderpriority", work("order_count", "count")),
        sort("o_orderpriority"),
    )


def _q5() -> Plan:
    return plan(
        "lineitem",
        join(plan("orders", keep(*within("o_orderdate", "1994-01-01", "1995-01-01"))), "l_orderkey=o_orderkey"),
        join("customer", "o_custkey=c_custkey"),
        join("supplier", "l_suppkey=s_suppkey", "c_nationkey=s_nationkey"),
        join("nation", "s_nationkey=n_nationkey"),
        join(plan("region", keep(equal("r_name", "ASIA"))), "n_regionkey=r_regionkey"),
        REVENUE,
        group("n_name", work("revenue", "sum", "revenue_part")),
        sort("-revenue"),
    )


def _q6() -> Plan:
    return plan(
        "lineitem",
        keep(
            *within("l_shipdate", "1994-01-01", "1995-01-01"),
            ex.Between(
                value=value("l_discount"),
                low=Constant(type=Type.DECIMAL, value="0.05"),
                high=Constant(type=Type.DECIMAL, value="0.07"),
            ),
            compare("<", "l_quantity", 24),
        ),
        derive("part", arithmetic("*", "l_extendedprice", "l_discount")),
        group("", work("revenue", "sum", "part")),
    )


def _q7() -> Plan:
    def between(one: str, other: str) -> Expression:
        return ex.AllOf(items=(equal("supp_nation", one), equal("cust_nation", other)))

    return plan(
        "lineitem",
        keep(*within("l_shipdate", "1995-01-01", "1997-01-01")),
        join("supplier", "l_suppkey=s_suppkey"),
        join("orders", "l_orderkey=o_orderkey"),
        join("customer", "o_custkey=c_custkey"),
        join(plan("nation", pick("n_nationkey=key_1", "n_name=supp_nation")), "s_nationkey=key_1"),
        join(plan("nation", pick("n_nationkey=key_2", "n_name=cust_nation")), "c_nationkey=key_2"),
        keep(ex.AnyOf(items=(between("FRANCE", "GERMANY"), between("GERMANY", "FRANCE")))),
        year("l_year", "l_shipdate"),
        REVENUE,
        group("supp_nation cust_nation l_year", work("revenue", "sum", "revenue_part")),
        sort("supp_nation", "cust_nation", "l_year"),
    )


def _q8() -> Plan:
    return plan(
        "lineitem",
        join(plan("part", keep(equal("p_type", "ECONOMY ANODIZED STEEL"))), "l_partkey=p_partkey"),
        join("supplier", "l_suppkey=s_suppkey"),
        join(plan("orders", keep(*within("o_orderdate", "1995-01-01", "1997-01-01"))), "l_orderkey=o_orderkey"),
        join("customer", "o_custkey=c_custkey"),
        join(plan("nation", pick("n_nationkey=key_1", "n_regionkey=region_key")), "c_nationkey=key_1"),
        join(plan("region", keep(equal("r_name", "AMERICA"))), "region_key=r_regionkey"),
        join(plan("nation", pick("n_nationkey=key_2", "n_name=nation")), "s_nationkey=key_2"),
        year("o_year", "o_orderdate"),
        REVENUE,
        derive("brazilian", _or_nought(equal("nation", "BRAZIL"), "revenue_part")),
        group("o_year", work("of_brazil", "sum", "brazilian"), work("whole", "sum", "revenue_part")),
        derive("mkt_share", arithmetic("/", "of_brazil", "whole")),
        pick("o_year", "mkt_share"),
        sort("o_year"),
    )


def _q9() -> Plan:
    cost = arithmetic("*", "ps_supplycost", "l_quantity")
    return plan(
        "lineitem",
        join(
            plan("part", keep(ex.TextMatch(how="contains", value=value("p_name"), pattern="green"))),
            "l_partkey=p_partkey",
        ),
        join("supplier", "l_suppkey=s_suppkey"),
        join("partsupp", "l_suppkey=ps_suppkey", "l_partkey=ps_partkey"),
        join("orders", "l_orderkey=o_orderkey"),
        join("nation", "s_nationkey=n_nationkey"),
        year("o_year", "o_orderdate"),
        REVENUE,
        derive("amount", arithmetic("-", "revenue_part", cost)),
        group("n_name o_year", work("sum_profit", "sum", "amount")),
        sort("n_name", "-o_year"),
    )


def _q10() -> Plan:
    shown = "c_custkey c_name revenue c_acctbal n_name c_address c_phone c_comment"
    return plan(
        "lineitem",
        keep(equal("l_returnflag", "R")),
        join(plan("orders", keep(*within("o_orderdate", "1993-10-01", "1994-01-01"))), "l_orderkey=o_orderkey"),
        join(plan("customer", pick(*["c_custkey=own_key", "c_nationkey"])), "o_custkey=own_key"),
        REVENUE,
        group("own_key", work("revenue", "sum", "revenue_part")),
        join("customer", "own_key=c_custkey"),
        join("nation", "c_nationkey=n_nationkey"),
        pick(*shown.split()),
        sort("-revenue", "c_custkey"),
        st.Limit(rows=20),
    )


def _q11(scale: float) -> Plan:
    stock: tuple[Step, ...] = (
        join("supplier", "ps_suppkey=s_suppkey"),
        join(plan("nation", keep(equal("n_name", "GERMANY"))), "s_nationkey=n_nationkey"),
        derive("part_value", arithmetic("*", "ps_supplycost", "ps_availqty")),
    )
    whole = plan("partsupp", *stock, group("", work("whole", "sum", "part_value")))
    least = Constant(type=Type.FLOAT, value=0.0001 / scale)
    return plan(
        "partsupp",
        *stock,
        group("ps_partkey", work("value", "sum", "part_value")),
        join(whole),
        keep(compare(">", "value", arithmetic("*", "whole", least))),
        pick("ps_partkey", "value"),
        sort("-value"),
    )


def _q12() -> Plan:
    urgent = one_of("o_orderpriority", "1-URGENT", "2-HIGH")
    return plan(
        "lineitem",
        keep(
            one_of("l_shipmode", "MAIL", "SHIP"),
            compare("<", "l_commitdate", "l_receiptdate"),
            compare("<", "l_shipdate", "l_commitdate"),
            *within("l_receiptdate", "1994-01-01", "1995-01-01"),
        ),
        join("orders", "l_orderkey=o_orderkey"),
        group(
            "l_shipmode",
            work("high_line_count", "count", where=urgent),
            work("low_line_count", "count", where=ex.Negated(item=urgent)),
        ),
        sort("l_shipmode"),
    )


def _q13() -> Plan:
    plain = ex.Negated(item=ex.PatternMatch(value=value("o_comment"), pattern="special.*requests"))
    counted = plan("orders", keep(plain), group("o_custkey", work("orders", "count")))
    return plan(
        "customer",
        join(counted, "c_custkey=o_custkey", how="left"),
        derive("c_count", ex.FirstKnown(items=(value("orders"), value(0)))),
        group("c_count", work("custdist", "count")),
        sort("-custdist", "-c_count"),
    )


def _q14() -> Plan:
    promo = ex.TextMatch(how="starts", value=value("p_type"), pattern="PROMO")
    return plan(
        "lineitem",
        keep(*within("l_shipdate", "1995-09-01", "1995-10-01")),
        join("part", "l_partkey=p_partkey"),
        REVENUE,
        derive("promoted", _or_nought(promo, "revenue_part")),
        group("", work("promo", "sum", "promoted"), work("whole", "sum", "revenue_part")),
        derive("promo_revenue", arithmetic("/", arithmetic("*", 100, "promo"), "whole")),
        pick("promo_revenue"),
    )


def _q15() -> Plan:
    best = plan(
        "lineitem",
        keep(*within("l_shipdate", "1996-01-01", "1996-04-01")),
        REVENUE,
        group("l_suppkey", work("total_revenue", "sum", "revenue_part")),
        st.Window(name="best", function="highest", column="total_revenue"),
        keep(compare("=", "total_revenue", "best")),
    )
    return plan(
        "supplier",
        join(best, "s_suppkey=l_suppkey"),
        pick("s_suppkey", "s_name", "s_address", "s_phone", "total_revenue"),
        sort("s_suppkey"),
    )


def _q16() -> Plan:
    blamed = plan("supplier", keep(ex.PatternMatch(value=value("s_comment"), pattern="Customer.*Complaints")))
    polished = ex.TextMatch(how="starts", value=value("p_type"), pattern="MEDIUM POLISHED")
    return plan(
        "partsupp",
        join("part", "ps_partkey=p_partkey"),
        keep(
            compare("!=", "p_brand", text("Brand#45")),
            ex.Negated(item=polished),
            one_of("p_size", 49, 14, 23, 45, 19, 3, 36, 9),
        ),
        join(blamed, "ps_suppkey=s_suppkey", how="without"),
        group("p_brand p_type p_size", work("supplier_cnt", "distinct", "ps_suppkey")),
        sort("-supplier_cnt", "p_brand", "p_type", "p_size"),
    )


def _q17() -> Plan:
    chosen = plan("part", keep(equal("p_brand", "Brand#23"), equal("p_container", "MED BOX")))
    return plan(
        "lineitem",
        join(chosen, "l_partkey=p_partkey"),
        st.Window(name="usual", function="average", column="l_quantity", within=("l_partkey",)),
        keep(compare("<", "l_quantity", arithmetic("*", "usual", Constant(type=Type.FLOAT, value=0.2)))),
        group("", work("whole", "sum", "l_extendedprice")),
        derive("avg_yearly", arithmetic("/", "whole", 7)),
        pick("avg_yearly"),
    )


def _q18() -> Plan:
    large = plan(
        "lineitem",
        group("l_orderkey", work("quantity", "sum", "l_quantity")),
        keep(compare(">", "quantity", 300)),
    )
    return plan(
        "orders",
        join(large, "o_orderkey=l_orderkey"),
        join("customer", "o_custkey=c_custkey"),
        pick("c_name", "o_custkey=c_custkey", "o_orderkey", "o_orderdate", "o_totalprice", "quantity"),
        sort("-o_totalprice", "o_orderdate"),
        st.Limit(rows=100),
    )


def _q19() -> Plan:
    def kind(brand: str, containers: str, low: int, high: int, size: int) -> Expression:
        a, b, c, d = (Constant(type=Type.INTEGER, value=v) for v in (low, high, 1, size))
        return ex.AllOf(
            items=(
                equal("p_brand", brand),
                one_of("p_container", *containers.split(",")),
                ex.Between(value=value("l_quantity"), low=a, high=b),
                ex.Between(value=value("p_size"), low=c, high=d),
            )
        )

    return plan(
        "lineitem",
        keep(one_of("l_shipmode", "AIR", "AIR REG"), equal("l_shipinstruct", "DELIVER IN PERSON")),
        join("part", "l_partkey=p_partkey"),
        keep(
            ex.AnyOf(
                items=(
                    kind("Brand#12", "SM CASE,SM BOX,SM PACK,SM PKG", 1, 11, 5),
                    kind("Brand#23", "MED BAG,MED BOX,MED PKG,MED PACK", 10, 20, 10),
                    kind("Brand#34", "LG CASE,LG BOX,LG PACK,LG PKG", 20, 30, 15),
                )
            )
        ),
        REVENUE,
        group("", work("revenue", "sum", "revenue_part")),
    )


def _q20() -> Plan:
    shipped = plan(
        "lineitem",
        keep(*within("l_shipdate", "1994-01-01", "1995-01-01")),
        group("l_partkey l_suppkey", work("quantity", "sum", "l_quantity")),
    )
    forest = plan("part", keep(ex.TextMatch(how="starts", value=value("p_name"), pattern="forest")))
    ample = plan(
        "partsupp",
        join(forest, "ps_partkey=p_partkey", how="with"),
        join(shipped, "ps_partkey=l_partkey", "ps_suppkey=l_suppkey"),
        keep(compare(">", "ps_availqty", arithmetic("*", "quantity", Decimal("0.5")))),
    )
    return plan(
        "supplier",
        join(ample, "s_suppkey=ps_suppkey", how="with"),
        join(plan("nation", keep(equal("n_name", "CANADA"))), "s_nationkey=n_nationkey"),
        pick("s_name", "s_address"),
        sort("s_name"),
    )


def _q21() -> Plan:
    late = compare(">", "l_receiptdate", "l_commitdate")
    each = plan(
        "lineitem",
        group(
            "l_orderkey",
            # Several suppliers have a least and a greatest key that differ; counting different ones would cost more.
            *(work(which, which, "l_suppkey") for which in ("min", "max")),
            *(work(f"late_{which}", which, "l_suppkey", late) for which in ("min", "max")),
        ),
        pick("l_orderkey=order_key", "min", "max", "late_min", "late_max"),
    )
    return plan(
        "lineitem",
        keep(late),
        join(each, "l_orderkey=order_key"),
        keep(compare("!=", "min", "max"), compare("=", "late_min", "late_max")),
        join(plan("orders", keep(equal("o_orderstatus", "F"))), "l_orderkey=o_orderkey"),
        join("supplier", "l_suppkey=s_suppkey"),
        join(plan("nation", keep(equal("n_name", "SAUDI ARABIA"))), "s_nationkey=n_nationkey"),
        group("s_name", work("numwait", "count")),
        sort("-numwait", "s_name"),
        st.Limit(rows=100),
    )


def _q22() -> Plan:
    chosen: tuple[Step, ...] = (
        derive("cntrycode", ex.Slice(value=value("c_phone"), start=1, length=2)),
        keep(one_of("cntrycode", "13", "31", "23", "29", "30", "18", "17")),
    )
    usual = plan("customer", *chosen, keep(compare(">", "c_acctbal", 0)), group("", work("usual", "mean", "c_acctbal")))
    return plan(
        "customer",
        *chosen,
        join(usual),
        keep(compare(">", "c_acctbal", "usual")),
        join("orders", "c_custkey=o_custkey", how="without"),
        group("cntrycode", work("numcust", "count"), work("totacctbal", "sum", "c_acctbal")),
        sort("cntrycode"),
    )


_MAKERS: tuple[Callable[[], Plan], ...] = (
    *(_q1, _q2, _q3, _q4, _q5, _q6, _q7, _q8, _q9, _q10),
    *(_q12, _q13, _q14, _q15, _q16, _q17, _q18, _q19, _q20, _q21, _q22),
)


def plans(scale: float) -> dict[int, Plan]:
    """Every query by its number; one of them depends on the scale of the data."""
    found = {int(make.__name__.removeprefix("_q")): make() for make in _MAKERS}
    return dict(sorted({**found, 11: _q11(scale)}.items()))
