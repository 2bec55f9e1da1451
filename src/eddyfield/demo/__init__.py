"""The script that makes the demo scene, the mill race: characters, performance and set."""
