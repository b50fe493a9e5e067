"""Sections of the plan: each a pure function of the job and the catalog, giving Figures."""
