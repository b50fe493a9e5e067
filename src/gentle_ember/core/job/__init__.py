"""The job's records: one aggregate, read by everything and computed by nothing."""
