"""A process that judges a file's rows, or its share of them, while another writes them. Nothing of Django is
imported before it is set up.
"""

from __future__ import annotations

import gc
import os
import queue
from typing import Any

import django

from hurbin_core.base import HurbinError

LOOK_S = 2.0


def judge_beside(job_id: int, size: int, done: Any, parent: int, mine: int = 0, of: int = 1) -> None:
    """Hands over ("rows", batch) until ("end", None), ("refused", words) or ("broken", words). Ends by itself
    when the writer is gone.
    """
    django.setup()
    from django.db import connections

    from .models import ReadingsImport
    from .services.finished import finish_rows, in_batches
    from .services.shares import shared_out

    # A whole file's rows live at once; walking all of them for circles again and again costs a tenth of the
    # time.
    gc.disable()
    try:
        job = ReadingsImport.objects.select_related("site", "by").get(pk=job_id)
        share = shared_out(job.site_id, mine, of) if of > 1 else None
        for batch in in_batches(finish_rows(job, share), size):
            _hand_over(done, ("rows", batch), parent)
        _hand_over(done, ("end", None), parent)
    except HurbinError as error:
        _hand_over(done, ("refused", error.message), parent)
    except Exception as error:
        _hand_over(done, ("broken", f"{type(error).__name__}: {error}"), parent)
    finally:
        connections.close_all()


def _hand_over(done: Any, what: tuple[str, Any], parent: int) -> None:
    while os.getppid() == parent:
        try:
            done.put(what, timeout=LOOK_S)
        except queue.Full:
            continue
        return
    os._exit(1)
