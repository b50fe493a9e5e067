"""Nothing acknowledged is lost by a power cut, nor written twice when it is sent again."""

from tools.kills import killed


def test_a_server_killed_under_its_writers_loses_nothing_acknowledged(tmp_path):
    told, wrong = killed(tmp_path, 3, seed=40)
    assert wrong == []
    assert len(told.keys) > 5
