"""What a worker counts of its jobs."""

import asyncio
from types import SimpleNamespace

import pytest
import requests

from noema.jobs.counting import counted, give_figures
from tools.local import any_port


def test_jobs_are_counted_by_how_they_ended_and_given_to_who_asks():
    context = SimpleNamespace(job=SimpleNamespace(task_name="tested"))

    async def done():
        return 7

    async def failed():
        raise ValueError

    assert asyncio.run(counted(done, context, None)) == 7
    with pytest.raises(ValueError):  # noqa: PT011  it has no words
        asyncio.run(counted(failed, context, None))
    place = f"127.0.0.1:{any_port()}"
    give_figures(place)
    told = requests.get(f"http://{place}/metrics", timeout=10).text
    for ended in ("done", "failed"):
        assert f'noema_jobs_total{{ended="{ended}",task="tested"}} 1.0' in told
    assert 'noema_job_seconds_count{task="tested"} 2.0' in told
