"""A digital torque wrench on a local socket: what it says, a simulated stand-in for it, and who listens.

The protocol is in docs/wrench.md. No wrench of any maker is spoken to here.
"""

from inclinum.wrench.listener import Listener, Pull
from inclinum.wrench.simulated import SimulatedWrench

__all__ = ["Listener", "Pull", "SimulatedWrench"]
