"""Rod: plan, procedure and simulated machine."""
