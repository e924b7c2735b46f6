"""What a set-up is planned with: what all plans share, and the fields that ask for it."""
