package layout

// Penalty is how bad a break is by the rules that it goes against (CSS Break 3, §4.4): the
// worse, the higher.
type Penalty int

// The penalties of breaks, from none to where no break should ever be.
const (
	noPenalty    Penalty = iota // no rule is broken
	linesPenalty                // too few lines stand together, or a cell over rows is cut
	avoidPenalty                // what asks for no break is cut
	edgePenalty                 // contents and the lower edge of their box are parted
	worstPenalty                // a box reaches beyond its page
)
