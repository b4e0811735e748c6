"""The base of all tables."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import (
    DateTime,
    MetaData,
    Text,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Base of all tables, with constraint names that migrations can rely on."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_N_label)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_N_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {  # noqa: RUF012
        datetime: DateTime(timezone=True),
        dict[str, Any]: JSONB,
        list[str]: JSONB,
        list[Any]: JSONB,
        str: Text,
    }


def now() -> Mapped[datetime]:
    """A column that holds when its row was written."""
    return mapped_column(server_default=func.now())


class Derivation(Base):
    """A digest of the rules that made what is derived (see `store.derived`). One row."""

    __tablename__ = "derivations"
    rules: Mapped[str] = mapped_column(primary_key=True)
