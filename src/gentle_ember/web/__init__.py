"""The web application: one blueprint a subject, thin over the core and the store."""
