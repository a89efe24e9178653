"""Instruments that measure what comes out without asking Rheon: numbered pictures and clicks, written and read back."""
