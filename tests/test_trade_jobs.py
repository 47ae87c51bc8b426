"""Each job of the trade is laid as painters accept it; common practice."""

from __future__ import annotations

import pytest

from tradejobs import JOBS, TradeJob

pytestmark = pytest.mark.common_practice


@pytest.mark.parametrize("job", JOBS, ids=lambda job: job.name)
def test_a_job_is_laid_as_painters_accept_it(job: TradeJob) -> None:
    assert list(job.missing(job.plan())) == []
