//! CN-1: joints of a bank, and millivolts across every one of them at a known current.

mod joint;
mod judge;

pub use joint::{Joint, JointPart, Pole, joints_of};
pub use judge::{
    DEVIATIONS, JointDrop, JointError, JointFails, JointJudged, JointRound, OVER, RESOLVED, judge_joints,
};
