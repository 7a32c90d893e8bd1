"""Camber, toe, caster … roll centre, attitude and stations."""
