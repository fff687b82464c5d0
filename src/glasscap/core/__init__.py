"""The whole computation: no interface, no disk, no clock, no globals."""
