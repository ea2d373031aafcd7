"""What devices and Flaneur say to each other (docs/formats/capture-box.md)."""
