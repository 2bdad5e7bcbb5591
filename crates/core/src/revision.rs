//! The revision of the rules.

/// Counts changes of the rules that change judgements, states or due items: what older rules derived is
/// derived anew. Raised with every such change; a test compares the judgements of fixed banks with those
/// that were written down under this number.
pub const RULES_REVISION: i64 = 19;
