"""What is kept: accounts, jobs, circuits, drafts, issued revisions, the trail. Nothing else talks SQL."""
