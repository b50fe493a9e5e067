"""Answers without a job."""
