"""What the web server does besides serving; gunicorn reads one of these as its configuration."""
