// The console is no Go: this keeps Go's tools out of node_modules.
module oliveledger/console

go 1.26
