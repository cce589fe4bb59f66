"""What `./mattone` does before and around the application. Standard library only: it runs first.

This room is beside engine, server and web because it must work when none of them is installed.
"""
