"""Settings: data folder, port, limits. Read from ZITTERN_* variables; command-line options win."""

from __future__ import annotations

from pathlib import Path

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict

__all__ = ["Settings"]


class Settings(BaseSettings):
    """All settings with their defaults."""

    model_config = SettingsConfigDict(env_prefix="ZITTERN_", env_ignore_empty=True)

    data: Path = Field(default=Path("~/.local/share/zittern"), description="folder of the database and of sets")
    host: str = Field(default="127.0.0.1", description="address to listen on")
    port: int = Field(default=8712, ge=0, le=65535, description="port to listen on")
    most_upload_mb: int = Field(default=64, ge=1, le=1024, description="largest upload")

    @property
    def data_dir(self) -> Path:
        """The data folder, made when missing. Raises StoreError when it cannot be."""
        try:
            folder = self.data.expanduser().resolve()
            folder.mkdir(parents=True, exist_ok=True)
        except (OSError, RuntimeError, ValueError) as error:
            from zittern.store.faults import disk_fault  # it loads a database library, which most commands do without

            fault = error if isinstance(error, OSError) else OSError(0, str(error))
            raise disk_fault(self.data, fault) from error
        return folder
