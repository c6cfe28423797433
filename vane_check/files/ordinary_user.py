"""Giving up root for good."""

import os
import pwd

ORDINARY_USER = "nobody"


def drop_root() -> None:
    """Become an ordinary user (`VANE_USER`), if this is root."""
    if os.geteuid() != 0:
        return
    user = pwd.getpwnam(os.environ.get("VANE_USER", ORDINARY_USER))
    os.setgroups([])
    os.setgid(user.pw_gid)
    os.setuid(user.pw_uid)
    os.chdir("/")
