"""What makes a record trustworthy: one canonical spelling, a chain of journal entries, and a
statement to sign.
"""
