"""The goods' routes: catalogue, pieces, suppliers, orders, sales with their fitting lists, lists in and out."""

from typing import Annotated

from fastapi import APIRouter, Depends, Path, Query, Request, Response

from ..core.goods.importing import Kind
from ..core.units.model import ShortText
from ..desks import fitting_list, goods, goods_out, imports, items, pieces, sale_views, sales, suppliers, ways_back
from ..desks.idempotency import once
from ..desks.import_runner import Runner
from .asks import PAGES_AT_MOST, NoMore, TagPath, Typed
from .problems import OF_A_BATTERY, SIGNED_IN, WRITE, documented_responses
from .signed_in import AtDesk, AtKnownDesk, Now, WriteId

router = APIRouter(prefix="/api", responses=SIGNED_IN, tags=["goods"])

Number = Annotated[int, Path(ge=0, le=2**31 - 1)]


async def content_of(request: Request) -> bytes:
    """The body as it was sent."""
    return await request.body()


Content = Annotated[bytes, Depends(content_of)]
Page = Annotated[int, Query(ge=0, le=PAGES_AT_MOST)]


@router.get("/goods")
def catalogue(desk: AtDesk, text: Typed = "", in_stock: bool = False, page: Page = 0) -> goods.GoodsView:
    """A page of the catalogue."""
    return goods.catalogue(desk, text, in_stock, page)


@router.get("/goods/due")
def due(desk: AtDesk, now: Now) -> pieces.DueView:
    """Pieces that want a hand."""
    return pieces.due(desk, now)


@router.get("/goods/package.zip", responses=documented_responses(403), response_class=Response)
def package(at_desk: AtKnownDesk, now: Now) -> Response:
    """The goods as a Data Package: CSV files with a JSON descriptor. Packed when the transaction is over."""
    with at_desk() as desk:
        goods = goods_out.goods_of(desk)
    headers = {"content-disposition": 'attachment; filename="vane-check-goods.zip"'}
    return Response(goods_out.package(goods, now), media_type="application/zip", headers=headers)


@router.post("/goods", status_code=201, responses=WRITE)
def add_item(body: items.WriteItem, desk: AtDesk, now: Now, write: WriteId) -> goods.GoodsView:
    """Write a new item into the catalogue. Only a lead may."""
    once(desk, write, "item", body, lambda: items.write_item(desk, None, body, now))
    return goods.catalogue(desk, body.item.name, False, 0)


@router.post("/goods/receive", status_code=201, responses={**WRITE, **documented_responses(404)})
def receive(came: pieces.Receive, desk: AtDesk, now: Now, write: WriteId) -> goods.ItemDetail:
    """Goods that came are put on the shelf."""
    once(desk, write, "receive", came, lambda: pieces.receive(desk, came, now))
    return goods.one_item(desk, came.item_id, now)


@router.get("/goods/{item_id}", responses=documented_responses(404))
def one_item(item_id: Number, desk: AtDesk, now: Now) -> goods.ItemDetail:
    """One item with its pieces, orders and earlier prices."""
    return goods.one_item(desk, item_id, now)


@router.put("/goods/{item_id}", responses={**WRITE, **documented_responses(404)})
def write_item(item_id: Number, body: items.WriteItem, desk: AtDesk, now: Now, write: WriteId) -> goods.ItemDetail:
    """Write an item anew. Only a lead may; what stood before stays readable."""
    once(desk, write, f"item {item_id}", body, lambda: items.write_item(desk, item_id, body, now))
    return goods.one_item(desk, item_id, now)


@router.post("/pieces/{piece_id}", status_code=201, responses={**WRITE, **documented_responses(404)})
def piece_done(piece_id: Number, done: pieces.PieceDone, desk: AtDesk, now: Now, write: WriteId) -> pieces.DueView:
    """A piece was read, charged, filled, set aside or taken back."""
    once(desk, write, f"piece {piece_id}", done, lambda: pieces.piece_done(desk, piece_id, done, now))
    return pieces.due(desk, now)


@router.get("/suppliers")
def every_supplier(desk: AtDesk, now: Now) -> list[suppliers.SupplierView]:
    """Every supplier, and when an order made now would come."""
    return suppliers.all_suppliers(desk, now)


@router.post("/suppliers", status_code=201, responses={**WRITE, **documented_responses(404)})
def add_supplier(body: suppliers.WriteSupplier, desk: AtDesk, now: Now, write: WriteId) -> list[suppliers.SupplierView]:
    """Write a new supplier. Only a lead may."""
    once(desk, write, "supplier", body, lambda: suppliers.write(desk, None, body))
    return suppliers.all_suppliers(desk, now)


@router.put("/suppliers/{supplier_id}", responses={**WRITE, **documented_responses(404)})
def write_supplier(
    supplier_id: Number, body: suppliers.WriteSupplier, desk: AtDesk, now: Now, write: WriteId
) -> list[suppliers.SupplierView]:
    """Write a supplier anew. Only a lead may."""
    once(desk, write, f"supplier {supplier_id}", body, lambda: suppliers.write(desk, supplier_id, body))
    return suppliers.all_suppliers(desk, now)


@router.get("/orders")
def orders(desk: AtDesk) -> list[goods.OrderView]:
    """What is on order."""
    return goods.orders(desk)


@router.post("/orders", status_code=201, responses={**WRITE, **documented_responses(404)})
def write_order(body: goods.WriteOrder, desk: AtDesk, now: Now, write: WriteId) -> list[goods.OrderView]:
    """Write down what is to be ordered."""
    once(desk, write, "order", body, lambda: goods.write_order(desk, body, now))
    return goods.orders(desk)


@router.post("/orders/{order_id}/close", status_code=201, responses={**WRITE, **documented_responses(404)})
def close_order(
    order_id: Number, how: goods.CloseOrder, desk: AtDesk, now: Now, write: WriteId
) -> list[goods.OrderView]:
    """An order came, or is dropped."""
    once(desk, write, f"close order {order_id}", how, lambda: goods.close_order(desk, order_id, how, now))
    return goods.orders(desk)


@router.get("/sales")
def newest_sales(desk: AtDesk) -> list[sale_views.SoldView]:
    """The newest sales."""
    return sale_views.newest(desk)


@router.post("/sales", status_code=201, responses={**WRITE, **documented_responses(404)})
def sell(sold: sales.Sell, desk: AtDesk, now: Now, write: WriteId) -> sale_views.SaleView:
    """Hand a piece over; it becomes a battery with a tag, and has its fitting list."""
    tag = once(desk, write, "sale", sold, lambda: sales.sell(desk, sold, now))
    assert tag is not None
    return sale_views.sale_view(desk, tag, now)


@router.get("/batteries/{tag}/sale", responses=OF_A_BATTERY)
def sale(tag: TagPath, desk: AtDesk, now: Now) -> sale_views.SaleView:
    """The sale a battery left by, with its fitting list."""
    return sale_views.sale_view(desk, tag, now)


@router.post("/batteries/{tag}/sale/ticks", status_code=201, responses={**WRITE, **OF_A_BATTERY})
def tick(tag: TagPath, ticked: fitting_list.Tick, desk: AtDesk, now: Now, write: WriteId) -> sale_views.SaleView:
    """Tick a step of the fitting list off, or take that back."""
    once(desk, write, f"tick {tag}", ticked, lambda: fitting_list.tick(desk, tag, ticked, now))
    return sale_views.sale_view(desk, tag, now)


@router.post("/batteries/{tag}/sale/way-back", status_code=201, responses={**WRITE, **OF_A_BATTERY})
def take_back(tag: TagPath, body: ways_back.TakeBack, desk: AtDesk, now: Now, write: WriteId) -> sale_views.SaleView:
    """Take a sale back: void, returned, or exchanged; the answer is the sale that stands then."""
    stands = once(desk, write, f"way back {tag}", body, lambda: ways_back.take_back(desk, tag, body, now))
    assert stands is not None
    return sale_views.sale_view(desk, stands, now)


@router.get("/imports", responses=documented_responses(403))
def newest_imports(desk: AtDesk, now: Now) -> list[imports.ImportLine]:
    """The files brought in last. Only a lead may look."""
    return imports.newest(desk, now)


@router.post(
    "/imports", status_code=201, responses=WRITE,
    openapi_extra={"requestBody": {"required": True, "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}}}},
)  # fmt: skip
def send_list(
    content: Content,
    desk: AtDesk,
    now: Now,
    write: WriteId,
    request: Request,
    kind: Kind,
    name: Annotated[ShortText, Query()] = "",
) -> imports.ImportView:
    """Take a CSV or XLSX in; its heading is read beside the requests. Only a lead may."""
    file = imports.Sent(kind=kind, name=name, bytes=len(content), digest=imports.digest_of(content))
    run_id = once(desk, write, "import", file, lambda: imports.send(desk, kind, name, content, now))
    assert run_id is not None
    _start(desk, run_id, request)
    return imports.view(desk, run_id, now)


@router.get("/imports/{run_id}", responses=documented_responses(403, 404))
def one_import(run_id: Number, desk: AtDesk, now: Now, page: Page = 0) -> imports.ImportView:
    """How far a file is, with a page of its refused rows."""
    return imports.view(desk, run_id, now, page)


@router.get("/imports/{run_id}/refused.csv", responses=documented_responses(403, 404), response_class=Response)
def refused(run_id: Number, desk: AtDesk) -> Response:
    """Every refused row with why."""
    headers = {"content-disposition": 'attachment; filename="refused.csv"'}
    return Response(imports.refused_csv(desk, run_id), media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/imports/{run_id}/check", status_code=201, responses={**WRITE, **documented_responses(404)})
def check_import(
    run_id: Number, body: imports.Confirm, desk: AtDesk, now: Now, write: WriteId, request: Request
) -> imports.ImportView:
    """Say how the columns are read, and have every row looked at."""
    once(desk, write, f"check {run_id}", body, lambda: imports.begin_check(desk, run_id, body, now))
    _start(desk, run_id, request)
    return imports.view(desk, run_id, now)


@router.post("/imports/{run_id}/keep", status_code=201, responses={**WRITE, **documented_responses(404)})
def keep_import(
    run_id: Number, body: imports.Keep, desk: AtDesk, now: Now, write: WriteId, request: Request
) -> imports.ImportView:
    """Keep what was looked at: all of it or nothing."""
    once(desk, write, f"keep {run_id}", body, lambda: imports.begin_keep(desk, run_id, body, now))
    _start(desk, run_id, request)
    return imports.view(desk, run_id, now)


def _start(desk: AtDesk, run_id: int, request: Request) -> None:
    """Begin the work once the request's own transaction is kept: before that nobody else sees what it asks."""
    runner: Runner = request.app.state.runner
    desk.after_commit(lambda: runner.start(run_id, desk.staff.store_id))


@router.post("/imports/{run_id}/stop", status_code=201, responses={**WRITE, **documented_responses(404)})
def stop_import(run_id: Number, body: NoMore, desk: AtDesk, now: Now, write: WriteId) -> imports.ImportView:
    """Stop the work; nothing of it is kept."""
    once(desk, write, f"stop {run_id}", body, lambda: imports.stop(desk, run_id))
    return imports.view(desk, run_id, now)
